import { CENTRE, unsuited } from '../../parameters';
import { ONCE } from '../document';
import { binding, object, type Schema } from './declare';
import { inTheMiddle, shaped } from './shaped';

const once: Schema = {
  enum: [...ONCE],
  description: 'the instant of the clip at which a followed place is taken; every frame without',
};
const keyOf = (kind: string, more = ''): Schema => ({
  type: 'string',
  description: `the key of a ${kind} pin${more}`,
});

/**
 * A place that each clip sets; for a shape, its centre. Until a clip is known, the middle of the
 * frame.
 */
export const pin = binding<'pin'>({
  id: 'pin',
  schemas(p, value) {
    if (p.kind === 'point' || p.kind === 'line')
      return [object({ pin: keyOf(p.kind, ' that the look asks for'), once }, ['pin'])];
    return p.kind === 'ellipse'
      ? [object({ pin: keyOf('point', ': its centre'), shape: value, once }, ['pin', 'shape'])]
      : [];
  },
  faults(s, p, path, { pins }) {
    const asked = pins.get(s.pin);
    if (s.once !== undefined && !ONCE.includes(s.once))
      return [{ path: `${path}.once`, message: `must be one of ${ONCE.join(', ')}` }];
    if (!asked)
      return [{ path, message: `names the pin "${s.pin}", which the look does not ask for` }];
    if (asked.kind === 'point' && p.kind === 'ellipse') {
      const wrong = unsuited(p, s.shape);
      return wrong ? [{ path: `${path}.shape`, message: wrong }] : [];
    }
    return asked.kind === p.kind
      ? []
      : [{ path, message: `a ${asked.kind} pin cannot set a ${p.kind}` }];
  },
  resolve(s, _, { at }) {
    const place = at.placeOf?.(s.pin, s.nth ?? 0, s.once);
    if (place?.length === 4) return place;
    return shaped(s.shape, place ?? CENTRE);
  },
  pruned: (s, look) =>
    look.pins?.some((p) => p.key === s.pin && (p.kind === 'point' || p.kind === 'line'))
      ? s
      : inTheMiddle(s.shape),
  words: (s, look) =>
    `by pin ${look.pins?.find((p) => p.key === s.pin)?.label ?? s.pin}` +
    (s.once ? `, as at the clip’s ${s.once}` : ''),
  pin: (s) => s.pin,
});
