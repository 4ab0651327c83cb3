import { unsuited } from '../../parameters';
import { binding, object, type Schema } from './declare';

const DIAL: Schema = { $ref: '#/$defs/dial' };
const DRIVEN = ['number', 'colour', 'switch'];
/** A number as text, with decimals according to its size. */
export const figure = (n: number): string =>
  String(Number(n.toFixed(Math.abs(n) < 1 ? 3 : Math.abs(n) < 10 ? 2 : 1)));

/** A dial of the look. A number is mapped linearly from the dial's range onto `from`…`to`. */
export const dial = binding<'dial'>({
  id: 'dial',
  schemas(p, value) {
    if (!DRIVEN.includes(p.kind)) return [];
    return [
      p.kind === 'number' ? object({ dial: DIAL, from: value, to: value }) : object({ dial: DIAL }),
    ];
  },
  faults(s, p, path, { dials }) {
    const own = dials.get(s.dial);
    if (!own)
      return [{ path, message: `names the dial "${s.dial}", which the look does not have` }];
    if (own.kind !== p.kind)
      return [{ path, message: `a ${own.kind} dial cannot drive a ${p.kind}` }];
    if (p.kind !== 'number') return [];
    return (['from', 'to'] as const).flatMap((end) => {
      const message = unsuited(p, s[end]);
      return message ? [{ path: `${path}.${end}`, message }] : [];
    });
  },
  resolve(s, look, { at }) {
    const own = look.dials.find((d) => d.key === s.dial)!;
    const value = at.dials[own.key] ?? own.value;
    if (typeof value !== 'number') return value;
    const share = (value - own.min!) / (own.max! - own.min!);
    return s.from! + share * (s.to! - s.from!);
  },
  pruned(s, look) {
    // Only numbers are mapped to a range.
    const drives = look.dials.some(
      (d) => d.key === s.dial && (d.kind === 'number') === (s.from !== undefined),
    );
    if (drives) return s;
    return s.from === undefined ? undefined : { value: (s.from + (s.to ?? s.from)) / 2 };
  },
  words(s, look) {
    const name = look.dials.find((d) => d.key === s.dial)?.label ?? s.dial;
    return s.from === undefined
      ? `by dial ${name}`
      : `by dial ${name} (${figure(s.from)} to ${figure(s.to ?? s.from)})`;
  },
  dial: (s) => s.dial,
});
