import type { Sampling } from '../../../core';
import type { ClipView } from '../../data/views';
import { Choice } from '../../components/Choice';

const MATRIX = { bt709: 'BT.709', bt601: 'BT.601', bt2020: 'BT.2020' } as const;
const SITING = {
  left: 'left',
  center: 'centre',
  topleft: 'top left',
  top: 'top',
  bottomleft: 'bottom left',
  bottom: 'bottom',
} as const;
const FIELDS = {
  none: 'one instant',
  top: 'two, upper first',
  bottom: 'two, lower first',
} as const;
const KINDS = [
  ['matrix', 'Matrix', MATRIX, 'How luma and colour differences make red, green and blue'],
  [
    'siting',
    'Colour lies',
    SITING,
    'Where a sample of colour lies among the luma samples it stands for',
  ],
  ['fields', 'Each frame', FIELDS, 'One instant, or two woven together (interlaced)'],
] as const;
type Kind = (typeof KINDS)[number][0];

const of = (format: ClipView['format'], kind: Kind): string =>
  format[kind] ?? { matrix: 'bt709', siting: 'left', fields: 'none' }[kind];
/** A clip's corrections with one changed; values equal to the tags are not stored. */
export function sampledAs(clip: ClipView, kind: Kind, value: string): Sampling | null {
  const { [kind]: _, ...rest } = clip.sampling ?? {};
  const next = value === of(clip.tagged, kind) ? rest : { ...rest, [kind]: value };
  return Object.keys(next).length > 0 ? (next as Sampling) : null;
}

interface SamplesProps {
  readonly clip: ClipView;
  readonly onChange: (kind: Kind, value: string) => void;
  readonly onProgressive: (each: 1 | 2) => void;
}

/** How the samples of a clip are read; each property can be corrected. */
export function Samples({ clip, onChange, onProgressive }: SamplesProps) {
  const { layout, chroma, fields = 'none' } = clip.format;
  if (layout !== 'yuv') return null;
  const halved = chroma.includes(2);
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="quiet mb-1">Samples are read as</legend>
      {KINDS.filter(([kind]) => kind !== 'siting' || halved).map(([kind, label, options, help]) => (
        <label key={kind} className="grid grid-cols-[5rem_1fr] items-center gap-1" title={help}>
          <span className="quiet">{label}</span>
          <Choice
            className="field min-w-0"
            aria-label={label}
            value={of(clip.format, kind)}
            onChange={(v) => onChange(kind, v)}
          >
            {Object.entries(options).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
                {id === of(clip.tagged, kind) ? ' (found)' : ''}
              </option>
            ))}
          </Choice>
        </label>
      ))}
      {fields !== 'none' && (
        <p role="status" className="pt-1">
          Interlaced: two instants lie in each frame. Make it progressive, with{' '}
          <button className="word framed" onClick={() => onProgressive(1)}>
            one frame a pair
          </button>{' '}
          or{' '}
          <button className="word framed" onClick={() => onProgressive(2)}>
            two
          </button>
        </p>
      )}
    </fieldset>
  );
}
