import { withTrim } from '../../../core';
import { useStoreItself } from './context';
import { Pictures } from './Pictures';
import { NumberField } from '../../components/NumberField';
import type { BenchStore } from './store';
import { NO_TRIMS } from './trim-values';
import type { Sheet, Target, Tile } from './useTrials';
import { Choice } from '../../components/Choice';

/** Applies a tile's values to the look, or to the clip that is being trimmed. */
function take(store: BenchStore, { sets, words }: Tile): void {
  const { look, trims, trimming, change, trim } = store.getState();
  if (trimming === null)
    return change(
      `take ${words}`,
      sets.reduce((l, { target, value }) => target.set(l, value), look),
    );
  const own = sets.reduce(
    (t, { target, value }) => withTrim(t, target.dial!, value),
    trims[trimming] ?? NO_TRIMS,
  );
  trim(`take ${words}`, trimming, own);
}

/** The hero over the range of one or two dials or parameters; a click applies one. */
export function Trials({ sheet, shape }: { sheet: Sheet; shape: readonly [number, number] }) {
  const store = useStoreItself();
  const { axes, tiles, targets, columns } = sheet;
  return (
    <section
      aria-label="Trials"
      className="absolute inset-0 z-10 bg-base-300 flex flex-col"
      onKeyDown={(e) => {
        if (e.key === 'Escape') sheet.toggle();
      }}
    >
      <div className="flex-none flex flex-wrap items-center gap-x-4 gap-y-1 px-3 py-1.5 border-b line bg-base-200">
        {([0, 1] as const).map((i) => (
          <AxisLine
            key={i}
            sheet={sheet}
            i={i}
            label={i === 0 ? 'across' : 'down'}
            targets={targets.filter((t) => t.id !== axes[1 - i]?.target)}
          />
        ))}
        <button className="word ml-auto" onClick={sheet.toggle}>
          close <span className="num quiet">Esc</span>
        </button>
      </div>
      <Pictures
        tiles={tiles}
        columns={columns}
        shape={shape}
        onTake={(i) => {
          take(store, tiles[i]!);
          sheet.toggle();
        }}
      />
    </section>
  );
}

function AxisLine({
  sheet,
  i,
  label,
  targets,
}: {
  sheet: Sheet;
  i: 0 | 1;
  label: string;
  targets: readonly Target[];
}) {
  const axis = sheet.axes[i];
  const target = targets.find((t) => t.id === axis?.target);
  const groups = [...new Set(targets.map((t) => t.group))];
  return (
    <div className="flex items-center gap-2">
      <span className="quiet">{label}</span>
      <Choice
        className="field w-44"
        aria-label={`What changes ${label}`}
        value={axis?.target ?? ''}
        onChange={(v) => sheet.setAxis(i, v)}
      >
        {i === 1 && <option value="">nothing</option>}
        {groups.map((g) => (
          <optgroup key={g} label={g}>
            {targets
              .filter((t) => t.group === g)
              .map((t) => (
                <option key={t.id} value={t.id}>
                  {t.label}
                </option>
              ))}
          </optgroup>
        ))}
      </Choice>
      {axis &&
        target &&
        (['from', 'to'] as const).map((end) => (
          <span key={end} className="flex items-center gap-1">
            <span className="quiet">{end}</span>
            <NumberField
              label={`${label} ${end}`}
              value={axis[end]}
              min={target.least}
              max={target.most}
              unit={target.unit}
              onChange={(v) => sheet.setAxis(i, axis.target, { [end]: v })}
              onEnd={() => {}}
            />
          </span>
        ))}
    </div>
  );
}
