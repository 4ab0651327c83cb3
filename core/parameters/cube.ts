import { type CubeValue, cubeValue, isCube } from './cube-value';
import { hold, type ParameterBase, type ParameterKind } from './kind';
import { isProcess, type ProcessValue } from './process-value';

/** The value of a LUT parameter: a table, or a list of nodes. */
export type LutValue = CubeValue | ProcessValue;
/** A look-up table. */
export interface CubeParameter extends ParameterBase {
  readonly kind: 'cube';
  readonly default: null;
}

const COLOUR = { $ref: '#/$defs/colour' };

/** LUT parameters. */
export const cubeKind: ParameterKind<CubeParameter, LutValue | null> = {
  unsuited: (v) =>
    v === null || isCube(v) || isProcess(v)
      ? undefined
      : 'must be a whole table as a LUT file gives it, or null',
  schema: () => ({
    type: ['object', 'null'],
    properties: {
      name: { type: 'string' },
      kind: { enum: ['1d', '3d', 'process'] },
      size: { type: 'integer' },
      lo: COLOUR,
      hi: COLOUR,
      key: { type: 'string' },
      data: {
        type: 'string',
        contentEncoding: 'base64',
        description: 'little-endian 32-bit floats',
      },
      nodes: {
        type: 'array',
        items: { type: 'object' },
        description: 'of a process list: its nodes in order',
      },
    },
  }),
  parse: (text, { lut }) => lut(text),
  mix: hold,
  any: (_, random) =>
    cubeValue(
      'random',
      '3d',
      5,
      Float32Array.from({ length: 375 }, random),
      [-0.1, 0, 0],
      [1.2, 1, 2],
    ),
};
