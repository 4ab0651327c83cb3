/** Parts of the look document's JSON Schema that several others use. */
import { type Parameter, valueSchema } from '../parameters';
import { BINDINGS, object, type Schema } from './bindings';

/** A reference to a shared definition. */
export const ref = (name: string): Schema => ({ $ref: `#/$defs/${name}` });
/** An encoded colour. */
export const COLOUR_IS: Schema = {
  type: 'array',
  items: { type: 'number', minimum: -1, maximum: 16 },
  minItems: 3,
  maxItems: 3,
};
/** References to shared definitions. */
export const COLOUR = ref('colour'),
  KEY = ref('key'),
  DIAL = ref('dial'),
  SHARE = ref('share');
/** A key. */
export const KEY_IS: Schema = { type: 'string', pattern: '^[a-z0-9][a-z0-9-]{0,39}$' };
/** The key of a dial. */
export const DIAL_IS: Schema = {
  type: 'string',
  description: 'the key of a dial of the look, of the same kind',
};

/** The schema of `n` numbers. */
export const numbers = (n: number, description: string): Schema => ({
  type: 'array',
  items: { type: 'number' },
  minItems: n,
  maxItems: n,
  description,
});

/** All settings that a parameter accepts. */
export function setting(p: Parameter): Schema {
  const value = valueSchema(p);
  const ways = BINDINGS.flatMap((b) => b.schemas(p, value));
  return ways.length > 1 ? { oneOf: ways } : ways[0]!;
}

/** A setting in per cent, 0…100. */
export const SHARE_IS = setting({
  kind: 'number',
  id: 'share',
  label: 'Share',
  unit: '%',
  min: 0,
  max: 100,
  default: 100,
});

/** A setting per parameter, all optional. */
export const settings = (parameters: readonly Parameter[]): Schema =>
  object(
    Object.fromEntries(
      parameters.map((p) => [p.id, { description: p.help ?? p.label, ...setting(p) }]),
    ),
    [],
  );
