/** The look document as a JSON Schema, made from the declarations of steps, mattes and movers. */
import { BLEND_IDS, PLACEMENT } from '../compositing';
import { COMBINATIONS, matteParameters, MATTES } from '../mattes';
import { MIXINGS, number, type Parameter, valueSchema } from '../parameters';
import {
  BETWEEN,
  EASE_KINDS,
  FITTINGS,
  INSTANT_UNITS,
  LAYER_TIME,
  MOST_PLACES,
  type MoverKind,
  MOVERS,
  ORIGINS,
  RETIME_WAYS,
  TIME_UNITS,
  WHICH,
} from '../time';
import { BINDINGS, object, type Schema } from './bindings';
import { RETIME_HOLD, RETIME_SPEED } from './validate-time';
import { STEPS } from '../steps';
import {
  DIAL_KINDS,
  GOAL_MEASURES,
  LIES,
  LOOK_SCHEMA,
  MEANABLE,
  PIN_KINDS,
  RELATIONS,
  SOURCES,
  SUIT_MEASURES,
  KEYS,
  MOST_KEYS,
  WAYS,
} from './document';

const ref = (name: string): Schema => ({ $ref: `#/$defs/${name}` });
const COLOUR_IS: Schema = {
  type: 'array',
  items: { type: 'number', minimum: -1, maximum: 16 },
  minItems: 3,
  maxItems: 3,
};
const COLOUR = ref('colour'),
  KEY = ref('key'),
  DIAL = ref('dial'),
  SHARE = ref('share');
const KEY_IS: Schema = { type: 'string', pattern: '^[a-z0-9][a-z0-9-]{0,39}$' };
const DIAL_IS: Schema = {
  type: 'string',
  description: 'the key of a dial of the look, of the same kind',
};

const numbers = (n: number, description: string): Schema => ({
  type: 'array',
  items: { type: 'number' },
  minItems: n,
  maxItems: n,
  description,
});

/** All settings that a parameter accepts. */
function setting(p: Parameter): Schema {
  const value = valueSchema(p);
  const ways = BINDINGS.flatMap((b) => b.schemas(p, value));
  return ways.length > 1 ? { oneOf: ways } : ways[0]!;
}

const SHARE_IS = setting({
  kind: 'number',
  id: 'share',
  label: 'Share',
  unit: '%',
  min: 0,
  max: 100,
  default: 100,
});

const UNIT: Schema = { enum: TIME_UNITS };
const INSTANT_IS: Schema = object(
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
const INSTANT = ref('instant');
const EASE: Schema = object(
  {
    kind: { enum: EASE_KINDS },
    by: SHARE,
    handles: numbers(4, 'of cubic: its two inner points in shares of time and way'),
  },
  ['kind'],
);
const LENGTH = setting(number('length', 'Length', '', 0, 10_000, 0));
const SPAN_IS: Schema = object(
  { from: INSTANT, to: INSTANT, coming: LENGTH, going: LENGTH, unit: UNIT, ease: EASE },
  ['from', 'to'],
);
const SPAN = ref('span');
const RETIME: Schema = object({
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

/** A setting per parameter, all optional. */
const settings = (parameters: readonly Parameter[]): Schema =>
  object(
    Object.fromEntries(
      parameters.map((p) => [p.id, { description: p.help ?? p.label, ...setting(p) }]),
    ),
    [],
  );

/** A setting whose parameter's kind depends on a name elsewhere. */
const ANY_SETTING: Schema = {
  oneOf: [
    object({ value: {} }),
    object({ dial: DIAL, from: { type: 'number' }, to: { type: 'number' } }, ['dial']),
    object(
      {
        follows: { type: 'string' },
        offset: { type: 'number' },
        shade: { type: 'number' },
        hue: { type: 'number' },
      },
      ['follows'],
    ),
    object({ clip: { const: 'standing-out' } }),
  ],
};
const MATTES_ARE: Schema = {
  type: 'array',
  maxItems: 12,
  description: 'joined one after the other',
  items: {
    oneOf: MATTES.map((m) =>
      object(
        {
          key: KEY,
          matte: { const: m.id, description: m.help },
          on: { type: 'boolean' },
          combine: { enum: COMBINATIONS },
          invert: { type: 'boolean' },
          from: { ...KEY, description: 'a layer of the look, or a matte pin' },
          parameters: settings(matteParameters(m)),
        },
        ['key', 'matte', 'on', 'combine', 'invert', 'parameters'],
      ),
    ),
  },
};

const LAYERS_ARE: Schema = {
  type: 'array',
  maxItems: 64,
  items: object(
    {
      key: KEY,
      name: { type: 'string', maxLength: 80 },
      on: { type: 'boolean' },
      source: { enum: SOURCES },
      from: {
        ...KEY,
        description: 'the layer, the group, the footage pin or the look it begins with',
      },
      dials: {
        type: 'object',
        additionalProperties: ANY_SETTING,
        description: 'where the dials of the look it begins with stand',
      },
      over: { const: 'below', description: 'what that look is laid on; the clip without' },
      blend: { enum: BLEND_IDS },
      opacity: SHARE,
      steps: {
        type: 'array',
        maxItems: 64,
        items: {
          oneOf: STEPS.map((s) =>
            object(
              {
                key: KEY,
                step: { const: s.id, description: s.help },
                on: { type: 'boolean' },
                ...('build' in s &&
                  s.namesLayer && { from: { ...KEY, description: 'the layer it looks at' } }),
                mix: SHARE,
                parameters: settings(s.parameters),
                mattes: ref('mattes'),
                span: SPAN,
              },
              ['key', 'step', 'on', 'mix', 'parameters'],
            ),
          ),
        },
      },
      mattes: ref('mattes'),
      placement: settings(PLACEMENT),
      time: settings(LAYER_TIME),
      timeFrom: INSTANT,
      span: SPAN,
    },
    ['key', 'name', 'on', 'source', 'blend', 'opacity', 'steps'],
  ),
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
const MOVERS_ARE: readonly Schema[] = [
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

/** A goal or suitability test for one of these measures. */
const measured = (of: readonly string[]): Schema =>
  object({
    of: { enum: of },
    is: { enum: RELATIONS },
    value: { type: 'number', minimum: -50, maximum: 150, description: 'per cent' },
  });

/**
 * The JSON Schema of look documents. Every look that can be read fits it; it cannot express that
 * keys are unique and dials exist.
 */
export const lookSchema = (): Schema => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Look document',
  description: 'Layers and steps from the bedrock up. Made from the steps’ own declarations.',
  $defs: {
    colour: COLOUR_IS,
    key: KEY_IS,
    dial: DIAL_IS,
    share: SHARE_IS,
    instant: INSTANT_IS,
    span: SPAN_IS,
    mattes: MATTES_ARE,
    layers: LAYERS_ARE,
  },
  ...object(
    {
      schema: { const: LOOK_SCHEMA },
      name: { type: 'string', minLength: 1, maxLength: 80 },
      seed: { type: 'integer', minimum: 0, maximum: 0xffffffff },
      bedrock: { type: 'boolean', description: 'whether the clip itself lies at the foot' },
      fills: {
        type: 'boolean',
        description: 'whether it may cover more of the frame than the clip does; false without',
      },
      dials: {
        type: 'array',
        maxItems: 32,
        items: object(
          {
            key: KEY,
            label: { type: 'string', minLength: 1, maxLength: 40 },
            kind: { enum: DIAL_KINDS },
            min: { type: 'number' },
            max: { type: 'number' },
            unit: { type: 'string', maxLength: 12 },
            value: { oneOf: [{ type: 'number' }, { type: 'boolean' }, COLOUR] },
            goal: measured(GOAL_MEASURES),
          },
          ['key', 'label', 'kind', 'value'],
        ),
      },
      pins: {
        type: 'array',
        maxItems: 16,
        items: object({
          key: KEY,
          label: { type: 'string', minLength: 1, maxLength: 40 },
          kind: { enum: PIN_KINDS },
          many: { type: 'boolean' },
        }),
        description: 'what the look needs to know about each clip',
      },
      frame: object(
        {
          shape: {
            type: 'array',
            items: { type: 'number', minimum: 1, maximum: 100 },
            minItems: 2,
            maxItems: 2,
            description: 'width and height',
          },
          lies: { enum: LIES, description: 'between bars in what is delivered, or filling it' },
          rounded: {
            type: 'number',
            minimum: 0,
            maximum: 540,
            description: 'the radius of its corners, in lines',
          },
          clips: { const: 'fill', description: 'clips that are wider than it fill it' },
        },
        ['shape', 'lies', 'rounded'],
      ),
      suits: {
        type: 'array',
        maxItems: 12,
        items: measured(SUIT_MEASURES),
        description: 'what footage the look holds on',
      },
      means: {
        type: 'array',
        uniqueItems: true,
        items: { enum: MEANABLE },
        description: 'flags that it raises on purpose',
      },
      groups: {
        type: 'array',
        maxItems: 16,
        items: object({
          key: KEY,
          name: { type: 'string', minLength: 1, maxLength: 80 },
          layers: ref('layers'),
        }),
        description: 'stacks of their own that layers can have as their source',
      },
      looks: {
        type: 'array',
        maxItems: 8,
        items: object(
          {
            key: KEY,
            document: { $ref: '#', description: 'all of it' },
            of: object({
              look: { type: 'string', minLength: 1, maxLength: 80 },
              version: { type: 'integer', minimum: 1 },
            }),
            follows: { type: 'boolean', description: 'whether it goes on to newer versions' },
          },
          ['key', 'document'],
        ),
        description: 'other looks that layers begin with',
      },
      layers: ref('layers'),
      movers: {
        type: 'array',
        maxItems: 64,
        items: { oneOf: MOVERS_ARE },
        description: 'what moves in it',
      },
      span: SPAN,
      retime: RETIME,
    },
    ['schema', 'name', 'seed', 'bedrock', 'dials', 'layers'],
  ),
});
