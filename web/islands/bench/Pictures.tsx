import { Picture } from '../../engine/client/Picture';
import { useEngine } from './context';

interface Props {
  readonly tiles: readonly { readonly words: string; readonly short: string }[];
  readonly columns: number;
  readonly shape: readonly [number, number];
  readonly onTake: (i: number) => void;
}

/** Trials of the hero side by side, as large as fits; a click chooses one. */
export function Pictures({ tiles, columns, shape, onTake }: Props) {
  const engine = useEngine();
  const rows = Math.max(1, Math.ceil(tiles.length / columns));
  // Fits both ways, with a gap of 8 px and a line of text under each picture.
  const width = `calc(min(100cqw / ${columns} - 8px, (100cqh / ${rows} - 26px) * ${shape[0] / shape[1]}))`;
  return (
    <div className="flex-1 min-h-0 p-2" style={{ containerType: 'size' }}>
      <ul
        className="h-full grid gap-2 content-center justify-center"
        style={{ gridTemplateColumns: `repeat(${columns}, ${width})` }}
      >
        {tiles.map((t, i) => (
          <li key={i}>
            <button
              className="block w-full text-left hover:outline-1"
              title={`Take ${t.words}`}
              onClick={() => onTake(i)}
            >
              <span
                className="block bg-base-200"
                style={{ aspectRatio: `${shape[0]}/${shape[1]}` }}
              >
                <Picture
                  engine={engine}
                  view={`trial:${i}`}
                  label={t.words}
                  className="w-full h-full object-contain"
                />
              </span>
              <span className="block truncate num quiet">{t.short}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
