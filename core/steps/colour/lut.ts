import {
  type EncodingId,
  encodingOf,
  ENCODINGS,
  fromWorking,
  needsMatrix,
  SRGB_DECODE,
  SRGB_ENCODE,
  toWorking,
} from '../../image';
import type { Node, Pixel, TableSpec } from '../../kernel';
import {
  choice,
  cubeTables,
  cubeValue,
  type LutValue,
  type ProcessValue,
  type ValuesOf,
} from '../../parameters';
import { pixelStep, PixelTools } from '../declare';
import { processed, processTables } from '../process-kernel';

const ENCODING_NAMES = Object.fromEntries(ENCODINGS.map((e) => [e, encodingOf(e).label])) as Record<
  EncodingId,
  string
>;
const coded = <const Id extends string>(id: Id, label: string, help: string) =>
  choice(id, label, ENCODING_NAMES, 'srgb', { help });

const PARAMETERS = [
  { kind: 'cube', id: 'lut', label: 'Table', default: null },
  coded('takes', 'Takes', 'The encoding the table was made for.'),
  coded('gives', 'Gives', 'The encoding the table answers in.'),
] as const;
type LutValues = ValuesOf<typeof PARAMETERS>;

const isList = (l: LutValue): l is ProcessValue => l.kind === 'process';
const ends = (v: LutValues): [EncodingId, EncodingId] => [v.takes, v.gives];

/** The tables for a conversion between the working encoded curve and an encoding. */
const towards = (id: EncodingId): TableSpec[] =>
  id === 'srgb' ? [] : [SRGB_DECODE, ...some(encodingOf(id).fromLight)];
const backFrom = (id: EncodingId): TableSpec[] =>
  id === 'srgb' ? [] : [...some(encodingOf(id).toLight), SRGB_ENCODE];
const some = (t: TableSpec | undefined): TableSpec[] => (t ? [t] : []);

const matrixed = (c: Pixel, t: PixelTools, first: number): Node[] =>
  [0, 3, 6].map((r) =>
    c[0]!
      .mul(t.n(first + r))
      .add(c[1]!.mul(t.n(first + r + 1)))
      .add(c[2]!.mul(t.n(first + r + 2))),
  );

/** A table for the step's picture: warm where it is bright, cold where it is dark. */
const DUSK = cubeValue(
  'dusk',
  '3d',
  2,
  Float32Array.from({ length: 24 }, (_, i) => {
    const entry = Math.floor(i / 3);
    const [r, g, b] = [entry & 1, (entry >> 1) & 1, entry >> 2];
    const light = (r + g + b) / 3;
    return [r * 0.92 + 0.08 * light, g * 0.88 + 0.02, b * 0.78 + 0.12 * (1 - light)][i % 3]!;
  }),
);

/**
 * Numbers: start of the table and reciprocal of its length per channel, then the matrices in and
 * out.
 */
export const lut = pixelStep({
  id: 'lut',
  family: 'colour',
  label: 'LUT',
  help: 'Colours through a table from a file (outside it they are held to its edge), or through a list of nodes as it stands.',
  domain: 'encoded',
  example: { lut: DUSK },
  parameters: PARAMETERS,
  idle: (v) => v.lut === null,
  numbers: (v) => {
    const cube = v.lut;
    const [takes, gives] = ends(v).map(encodingOf);
    const table = cube && !isList(cube) ? cube : undefined;
    const lo = table?.lo ?? [0, 0, 0],
      hi = table?.hi ?? [1, 1, 1];
    return [
      ...lo,
      ...hi.map((h, i) => 1 / (h - lo[i]!)),
      ...fromWorking(takes!),
      ...toWorking(gives!),
    ];
  },
  tables: (v) => {
    const cube = v.lut;
    return cube
      ? [
          ...(isList(cube) ? processTables(cube) : cubeTables(cube)),
          ...towards(ends(v)[0]),
          ...backFrom(ends(v)[1]),
        ]
      : [];
  },
  variant: (v) => {
    const cube = v.lut;
    return `${cube ? (isList(cube) ? cube.key : cube.kind) : 'none'}-${ends(v).join('-')}`;
  },
  pixel: (c, t, v) => {
    const cube = v.lut;
    if (!cube) return c;
    const [takes, gives] = ends(v);
    let next = isList(cube) ? processTables(cube).length : cube.kind === '3d' ? 1 : 3;
    const through = (tables: readonly TableSpec[], x: Pixel): Pixel =>
      tables.reduce<Pixel>((now) => {
        const i = next++;
        return now.map((ch) => t.curve(i, ch));
      }, x);
    const [decode, encode] = [towards(takes).slice(0, 1), towards(takes).slice(1)];
    let x = through(decode, c);
    if (takes !== 'srgb' && needsMatrix(encodingOf(takes))) x = matrixed(x, t, 6);
    x = through(encode, x);
    if (isList(cube)) x = processed(x, cube, 0, t);
    else {
      x = x.map((ch, i) =>
        ch
          .sub(t.n(i))
          .mul(t.n(3 + i))
          .clamp(0, 1),
      );
      x = cube.kind === '3d' ? t.cube(0, x) : x.map((ch, i) => t.curve(i, ch));
    }
    const back = backFrom(gives);
    x = through(back.slice(0, -1), x);
    if (gives !== 'srgb' && needsMatrix(encodingOf(gives))) x = matrixed(x, t, 15);
    return through(back.slice(-1), x);
  },
});
