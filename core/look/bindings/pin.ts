import { CENTRE, type Ellipse, type ParameterValue, type Point, unsuited } from '../../parameters';
import { kindInFrame, type PlaceInFrame } from '../../places';
import { ONCE, OVAL_SIZES, type PinAsk, type PinSetting } from '../document';
import type { Fault } from '../fault';
import { answeredBy, asksPlace, setBy, UNSET } from '../pin-kinds';
import { binding, object, type Schema } from './declare';
import { inTheMiddle, shaped } from './shaped';

const once: Schema = {
  enum: [...ONCE],
  description: 'the instant of the clip at which a followed place is taken; every frame without',
};
const times: Schema = { type: 'number', description: 'per cent of an oval’s size; 100 without' };
const of: Schema = { enum: [...OVAL_SIZES], description: 'what it takes of the oval' };
const keyOf = (kinds: readonly string[]): Schema => ({
  type: 'string',
  description: `the key of a pin that the look asks for: ${kinds.join(' or ')}`,
});

/** A setting's value at a place that a clip has set; until then, by what the look asks for. */
export function valueAt(
  s: PinSetting,
  place: PlaceInFrame | undefined,
  asked: PinAsk['kind'] | undefined,
): ParameterValue {
  const oval = place && kindInFrame(place) === 'oval' ? (place as Ellipse) : undefined,
    share = (s.times ?? 100) / 100;
  if (s.of)
    return oval
      ? share * { width: 2 * oval[2], height: 2 * oval[3], turn: oval[4] }[s.of]
      : s.without!;
  if (oval && s.shape) return [oval[0], oval[1], oval[2] * share, oval[3] * share, oval[4]];
  if (oval) return [oval[0], oval[1]];
  if (place && kindInFrame(place) !== 'point') return place as ParameterValue;
  if (place || s.shape) return shaped(s.shape, (place ?? CENTRE) as Point);
  return UNSET[asked ?? 'point'] ?? CENTRE;
}

/**
 * A place that each clip sets; for a shape, its centre or all of it; for a number, a size of it.
 * Until a clip is known, what the kind of pin says.
 */
export const pin = binding<'pin'>({
  id: 'pin',
  schemas(p, value) {
    const kinds = setBy(p.kind);
    if (kinds.length === 0) return [];
    if (p.kind === 'number')
      return [
        object({ pin: keyOf(kinds), of, times, without: value, once }, ['pin', 'of', 'without']),
      ];
    return p.kind === 'ellipse'
      ? [object({ pin: keyOf(kinds), shape: value, times, once }, ['pin', 'shape'])]
      : [object({ pin: keyOf(kinds), once }, ['pin'])];
  },
  faults(s, p, path, { pins }) {
    const fault = (part: string, message: string): Fault[] => [{ path: `${path}${part}`, message }];
    const asked = pins.get(s.pin);
    if (s.once !== undefined && !ONCE.includes(s.once))
      return fault('.once', `must be one of ${ONCE.join(', ')}`);
    if (!asked) return fault('', `names the pin "${s.pin}", which the look does not ask for`);
    if (!setBy(p.kind).includes(asked.kind))
      return fault(
        '',
        `${/^[aeiou]/.test(asked.kind) ? 'an' : 'a'} ${asked.kind} pin cannot set a ${p.kind}`,
      );
    if (s.times !== undefined && !(typeof s.times === 'number' && Math.abs(s.times) <= 1e4))
      return fault('.times', 'must be a number of per cent');
    if (p.kind === 'number') {
      if (!s.of || !OVAL_SIZES.includes(s.of))
        return fault('.of', `must be one of ${OVAL_SIZES.join(', ')}`);
      const wrong = unsuited(p, s.without);
      return wrong ? fault('.without', wrong) : [];
    }
    const wrong = p.kind === 'ellipse' ? unsuited(p, s.shape) : undefined;
    return wrong ? fault('.shape', wrong) : [];
  },
  resolve(s, look, { at }) {
    const kind = look.pins?.find((p) => p.key === s.pin)?.kind;
    return valueAt(s, answeredBy(kind, at.placeOf?.(s.pin, s.nth ?? 0, s.once)), kind);
  },
  pruned(s, look) {
    if (look.pins?.some((p) => p.key === s.pin && asksPlace(p.kind))) return s;
    return s.without === undefined ? inTheMiddle(s.shape) : { value: s.without };
  },
  words: (s, look) =>
    (s.of ? `the ${s.of} of ` : 'by pin ') +
    `${look.pins?.find((p) => p.key === s.pin)?.label ?? s.pin}` +
    (s.once ? `, as at the clip’s ${s.once}` : ''),
  pin: (s) => s.pin,
});
