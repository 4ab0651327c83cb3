import { memo } from 'react';
import type { Dial, Parameter } from '../../../../core';
import { useStill } from '../context';
import { alike, centres, leadsTo } from './Following';

/** The choice that makes a colour what stands out from each clip. */
export const CLIP = 'clip';
const suits = (d: Dial, p: Parameter): boolean => d.kind === p.kind && d.key !== 'strength';
/** A dial by its key and words. */
export type Named = Pick<Dial, 'key' | 'label'>;
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
  readonly own: string | undefined;
  readonly measured: boolean;
  readonly pin: string | undefined;
  readonly centre: string | undefined;
  /** The key of a pin, the path of a matte, or nothing for a constant. */
  readonly onChoose: (to: string) => void;
}

/** What sets a place: itself, a pin of each clip, or the middle of a matte. */
export const PlacedBy = memo(function PlacedBy({ parameter: p, own, measured, pin, centre, onChoose }: PlacedProps) {
  const pins = useStill((still) => (still.pins ?? []).filter((k) => k.kind === (p.kind === 'line' ? 'line' : 'point'))),
    mattes = useStill((still) => (p.kind === 'line' ? [] : centres(still, own, measured)));
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
        {pins.map((k) => (
          <option key={k.key} value={k.key}>
            {k.label}
          </option>
        ))}
        {p.kind !== 'line' && (
          <optgroup label="the middle of a matte">
            {mattes.map((c) => (
              <option key={c.path} value={c.path}>
                {c.label}
              </option>
            ))}
          </optgroup>
        )}
      </select>
    </span>
  );
});

interface DrivenProps {
  readonly parameter: Parameter;
  readonly own: string | undefined;
  readonly dial: Named | undefined;
  /** The path of what it follows, or `CLIP`. */
  readonly bound: string | undefined;
  /** A dial's key, `+` for a new one, the path of another parameter, `CLIP`, or nothing for a constant. */
  readonly onChoose: (to: string) => void;
}

/** What drives a value: nothing, a dial, the clip, or another parameter. */
export const DrivenBy = memo(function DrivenBy({ parameter: p, own, dial, bound, onChoose }: DrivenProps) {
  const dials = useStill((still) => still.dials.filter((d) => suits(d, p)).map(({ key, label }) => ({ key, label }))),
    others = useStill((still) => (p.kind === 'switch' ? [] : alike(still, p.kind).filter((o) => o.path !== own && !leadsTo(still, o.path, own))));
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
        {dials.map((d) => (
          <option key={d.key} value={d.key}>
            {d.label}
          </option>
        ))}
        <option value="+">a new dial</option>
        {p.kind === 'colour' && <option value={CLIP}>what stands out from each clip</option>}
        {p.kind !== 'switch' && (
          <optgroup label="follow">
            {others.map((o) => (
              <option key={o.path} value={o.path}>
                {o.label}
              </option>
            ))}
          </optgroup>
        )}
      </select>
    </span>
  );
});
