/** JSON Schemas of instants, spans, retimes and movers. */
import { MIXINGS, number } from '../parameters';
import {
  BETWEEN,
  EASE_KINDS,
  FITTINGS,
  INSTANT_UNITS,
  MOST_PLACES,
  type MoverKind,
  MOVERS,
  ORIGINS,
  RETIME_WAYS,
  TIME_UNITS,
  WHICH,
} from '../time';
import { object, type Schema } from './bindings';
import { KEYS, MOST_KEYS, WAYS } from './document';
import { KEY, numbers, ref, setting, settings, SHARE } from './schema-parts';
import { RETIME_HOLD, RETIME_SPEED } from './validate-time';

const UNIT: Schema = { enum: TIME_UNITS };
/** An instant. */
export const INSTANT_IS: Schema = object(
  {
    from: { enum: ORIGINS },
    cue: { ...KEY, description: 'a cue pin of the look' },
    which: { enum: WHICH },
    share: { type: 'number', minimum: 0, maximum: 100, description: 'per cent of the clip' },
    offset: setting(number('offset', 'Offset', '', -100_000, 100_000, 0)),
    unit: { enum: INSTANT_UNITS },
  },
  ['from'],
);
/** A reference to an instant. */
export const INSTANT = ref('instant');
const EASE: Schema = object(
  {
    kind: { enum: EASE_KINDS },
    by: SHARE,
    handles: numbers(4, 'of cubic: its two inner points in shares of time and way'),
  },
  ['kind'],
);
const LENGTH = setting(number('length', 'Length', '', 0, 10_000, 0));
/** A span. */
export const SPAN_IS: Schema = object(
  { from: INSTANT, to: INSTANT, coming: LENGTH, going: LENGTH, unit: UNIT, ease: EASE },
  ['from', 'to'],
);
/** A reference to a span. */
export const SPAN = ref('span');
/** A look's retime. */
export const RETIME: Schema = object({
  places: {
    type: 'array',
    minItems: 1,
    maxItems: MOST_PLACES,
    description: 'where in the clip’s own time it runs how fast',
    items: object(
      {
        at: INSTANT,
        speed: setting(RETIME_SPEED),
        hold: setting(RETIME_HOLD),
        to: { enum: RETIME_WAYS },
      },
      ['at', 'speed', 'to'],
    ),
  },
  backwards: { type: 'boolean' },
  between: { enum: BETWEEN, description: 'what stands where the clip has no frame of its own' },
});
/** A setting of any kind; its schema depends on what is moved. */
const ANY: Schema = { type: 'object' };
const TARGETS: Schema = {
  type: 'array',
  maxItems: 64,
  items: object(
    {
      path: { type: 'string', maxLength: 160, description: 'layer/step/parameter and the like' },
      how: { enum: WAYS },
      amount: ANY,
      part: { type: 'string' },
    },
    ['path', 'how'],
  ),
};
const MOVER = {
  key: KEY,
  name: { type: 'string', minLength: 1, maxLength: 80 },
  on: { type: 'boolean' },
  targets: TARGETS,
};

const INSTANTS = (kind: MoverKind): Schema =>
  object(
    Object.fromEntries(
      kind.instants.map((i) => [
        i.id,
        { type: 'array', minItems: 1, maxItems: i.many ? 200 : 1, items: INSTANT },
      ]),
    ),
    [],
  );
const FITS: Schema = { enum: FITTINGS, description: 'where the clip ends before it does' };
/** Movers: one schema per kind. */
export const MOVERS_ARE: readonly Schema[] = [
  object(
    {
      ...MOVER,
      kind: { const: KEYS },
      parameters: { type: 'object', maxProperties: 0 },
      instants: { type: 'object', maxProperties: 0 },
      keys: {
        type: 'array',
        minItems: 1,
        maxItems: MOST_KEYS,
        items: object(
          { at: INSTANT, value: { description: 'of the kind of what is moved' }, ease: EASE },
          ['at', 'value'],
        ),
      },
      mixing: { enum: MIXINGS },
      fits: FITS,
    },
    ['key', 'name', 'on', 'kind', 'parameters', 'keys', 'targets'],
  ),
  ...MOVERS.map((m) =>
    object(
      {
        ...MOVER,
        kind: { const: m.id, description: m.help },
        parameters: settings(m.parameters),
        instants: INSTANTS(m),
        fits: FITS,
      },
      ['key', 'name', 'on', 'kind', 'parameters', 'targets'],
    ),
  ),
];
