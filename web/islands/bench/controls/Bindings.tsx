import { type Dial, type LookDocument, type Parameter } from '../../../../core';
import { alike, centres, leadsTo } from './Following';

/** The choice that makes a colour what stands out from each clip. */
export const CLIP = 'clip';
const suits = (d: Dial, p: Parameter): boolean => d.kind === p.kind && d.key !== 'strength';
const MARK = 'relative w-[18px] h-[18px] grid place-items-center rounded-sm hover:bg-base-300';

/** A ring, filled where something else decides the value. */
const Ring = ({ filled }: { filled: boolean }) => (
  <span
    aria-hidden="true"
    className={`w-[7px] h-[7px] rounded-full border ${filled ? 'bg-base-content border-base-content' : 'border-current opacity-50'}`}
  />
);

interface PlacedProps {
  readonly parameter: Parameter;
  readonly look: LookDocument;
  readonly own: string | undefined;
  readonly measured: boolean;
  readonly pin: string | undefined;
  readonly centre: string | undefined;
  /** The key of a pin, the path of a matte, or nothing for a constant. */
  readonly onChoose: (to: string) => void;
}

/** What sets a place: itself, a pin of each clip, or the middle of a matte. */
export function PlacedBy({ parameter: p, look, own, measured, pin, centre, onChoose }: PlacedProps) {
  return (
    <span
      className={MARK}
      title={pin !== undefined ? 'set by a pin' : centre !== undefined ? 'follows a matte' : 'set by a pin of each clip, or the middle of a matte'}
    >
      <Ring filled={pin !== undefined || centre !== undefined} />
      <select
        className="absolute inset-0 opacity-0 cursor-pointer"
        aria-label={`${p.label} is set by`}
        value={pin ?? centre ?? ''}
        onChange={(e) => onChoose(e.target.value)}
      >
        <option value="">a constant</option>
        {look.pins
          ?.filter((k) => k.kind === (p.kind === 'line' ? 'line' : 'point'))
          .map((k) => (
            <option key={k.key} value={k.key}>
              {k.label}
            </option>
          ))}
        {p.kind !== 'line' && (
          <optgroup label="the middle of a matte">
            {centres(look, own, measured).map((c) => (
              <option key={c.path} value={c.path}>
                {c.label}
              </option>
            ))}
          </optgroup>
        )}
      </select>
    </span>
  );
}

interface DrivenProps {
  readonly parameter: Parameter;
  readonly look: LookDocument;
  readonly own: string | undefined;
  readonly dial: Dial | undefined;
  /** The path of what it follows, or `CLIP`. */
  readonly bound: string | undefined;
  /** A dial's key, `+` for a new one, the path of another parameter, `CLIP`, or nothing for a constant. */
  readonly onChoose: (to: string) => void;
}

/** What drives a value: nothing, a dial, the clip, or another parameter. */
export function DrivenBy({ parameter: p, look, own, dial, bound, onChoose }: DrivenProps) {
  return (
    <span className={MARK} title={dial ? `driven by the dial ${dial.label}` : bound ? 'follows' : 'drive by a dial, or follow another'}>
      <Ring filled={dial !== undefined || bound !== undefined} />
      <select
        className="absolute inset-0 opacity-0 cursor-pointer"
        aria-label={`${p.label} is driven by`}
        value={dial?.key ?? bound ?? ''}
        onChange={(e) => onChoose(e.target.value)}
      >
        <option value="">a constant</option>
        {look.dials
          .filter((d) => suits(d, p))
          .map((d) => (
            <option key={d.key} value={d.key}>
              {d.label}
            </option>
          ))}
        <option value="+">a new dial</option>
        {p.kind === 'colour' && <option value={CLIP}>what stands out from each clip</option>}
        {p.kind !== 'switch' && (
          <optgroup label="follow">
            {alike(look, p.kind)
              .filter((o) => o.path !== own && !leadsTo(look, o.path, own))
              .map((o) => (
                <option key={o.path} value={o.path}>
                  {o.label}
                </option>
              ))}
          </optgroup>
        )}
      </select>
    </span>
  );
}
