import { type Arranging, GROUPINGS, ORDERS, PLAYHEADS } from './arrange';
import { Choices } from '../../components/Choices';

/** Sizes of tiles: name, smallest width of a tile, height of its picture. */
export const SIZES = [
  ['contact sheet', 118, 135],
  ['small', 170, 135],
  ['medium', 260, 270],
  ['large', 420, 270],
] as const;

interface Props {
  readonly clips: number;
  readonly arranging: Arranging;
  readonly onArrange: (a: Partial<Arranging>) => void;
}

/** Size of tiles, playhead, order and grouping. */
export function ArrangeBar({
  clips,
  arranging: { size, playhead, order, grouping },
  onArrange,
}: Props) {
  return (
    <div className="flex-none h-9 flex items-center gap-4 px-4 border-b line">
      <Choices
        label="tile size"
        options={SIZES.map(([label]) => label)}
        value={SIZES[size]![0]}
        onValue={(v) => onArrange({ size: SIZES.findIndex(([l]) => l === v) })}
      />
      <Choices
        label="at the"
        options={PLAYHEADS}
        value={playhead}
        onValue={(playhead) => onArrange({ playhead })}
      />
      <Choices
        label="sorted"
        options={ORDERS}
        value={order}
        onValue={(order) => onArrange({ order })}
      />
      <Choices
        label="grouped by"
        options={GROUPINGS}
        value={grouping}
        onValue={(grouping) => onArrange({ grouping })}
      />
      <span className="num quiet ml-auto">
        {clips} clip{clips === 1 ? '' : 's'}
      </span>
    </div>
  );
}
