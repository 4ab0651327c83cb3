/** The look document as a JSON Schema, made from the declarations of steps, mattes and movers. */
import { BLEND_IDS, PLACEMENT } from '../compositing';
import { COMBINATIONS, matteParameters, MATTES } from '../mattes';
import { STEPS } from '../steps';
import { LAYER_TIME } from '../time';
import { object, type Schema } from './bindings';
import {
  DIAL_KINDS,
  GOAL_MEASURES,
  LIES,
  LOOK_SCHEMA,
  MEANABLE,
  FADES_OVER,
  LOST_WAYS,
  SIDES,
  PIN_KINDS,
  RELATIONS,
  SOURCES,
  SUIT_MEASURES,
} from './document';
import {
  COLOUR,
  COLOUR_IS,
  DIAL,
  DIAL_IS,
  KEY,
  KEY_IS,
  ref,
  settings,
  SHARE,
  SHARE_IS,
} from './schema-parts';
import { INSTANT, INSTANT_IS, MOVERS_ARE, RETIME, SPAN, SPAN_IS } from './schema-time';

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
        items: object(
          {
            key: KEY,
            label: { type: 'string', minLength: 1, maxLength: 40 },
            kind: { enum: PIN_KINDS },
            many: { type: 'boolean' },
            lost: { enum: LOST_WAYS, description: 'what becomes of it while its trace is lost' },
            over: {
              type: 'number',
              minimum: 1,
              maximum: 250,
              default: FADES_OVER,
              description: 'frames over which it fades',
            },
            side: {
              enum: SIDES,
              description: 'of footage: which side of a transition answers it in a cut',
            },
          },
          ['key', 'label', 'kind', 'many'],
        ),
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
