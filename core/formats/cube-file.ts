/**
 * `.cube` tables of one and three dimensions, with `TITLE`, `DOMAIN_MIN`, `DOMAIN_MAX` or input
 * ranges, comments, and any line ends. In three dimensions red changes fastest.
 */
import { type Colour, cubeValue, type CubeValue, MOST_ENTRIES, MOST_SIDE } from '../parameters';
import { fault, MOST_BYTES, numberOf, type Parsed, shortest } from './parsed';

interface Reading {
  name: string;
  kind: '1d' | '3d' | undefined;
  size: number;
  lo: Colour;
  hi: Colour;
  colours: Float32Array | undefined;
  filled: number;
}

/** Takes a header line; returns what is wrong with it, or undefined. */
function header(
  r: Reading,
  word: string,
  rest: readonly string[],
  line: string,
): string | undefined {
  const numbers = rest.map(numberOf);
  const three =
    numbers.length === 3 && numbers.every((v) => v !== undefined)
      ? (numbers as unknown as Colour)
      : undefined;
  switch (word) {
    case 'TITLE':
      r.name = line.slice(5).trim().replace(/^"|"$/g, '').slice(0, 200);
      return undefined;
    case 'LUT_1D_SIZE':
    case 'LUT_3D_SIZE': {
      const kind = word === 'LUT_1D_SIZE' ? '1d' : '3d',
        most = kind === '1d' ? MOST_ENTRIES : MOST_SIDE;
      if (r.kind)
        return r.kind === kind
          ? `${word} is given twice`
          : 'holds a curve and a cube: only one of them can be read';
      const [size] = numbers;
      if (
        rest.length !== 1 ||
        size === undefined ||
        !Number.isInteger(size) ||
        size < 2 ||
        size > most
      )
        return `${word} must be one whole number from 2 to ${most}`;
      r.kind = kind;
      r.size = size;
      return undefined;
    }
    case 'DOMAIN_MIN':
    case 'DOMAIN_MAX':
      if (!three) return `${word} needs three numbers`;
      if (word === 'DOMAIN_MIN') r.lo = three;
      else r.hi = three;
      return undefined;
    case 'LUT_1D_INPUT_RANGE':
    case 'LUT_3D_INPUT_RANGE': {
      const [lo, hi] = numbers;
      if (rest.length !== 2 || lo === undefined || hi === undefined)
        return `${word} needs two numbers`;
      r.lo = [lo, lo, lo];
      r.hi = [hi, hi, hi];
      return undefined;
    }
    default:
      return `"${word.slice(0, 40)}" is neither a number nor a word of this format`;
  }
}

const entriesOf = (r: Reading): number => (r.kind === '3d' ? r.size * r.size * r.size : r.size);

function entry(r: Reading, words: readonly string[]): string | undefined {
  if (!r.kind) return 'numbers stand before LUT_1D_SIZE or LUT_3D_SIZE';
  if (words.length !== 3) return `an entry has three numbers, this line has ${words.length}`;
  r.colours ??= new Float32Array(entriesOf(r) * 3);
  if (r.filled === r.colours.length)
    return `there are more than the ${entriesOf(r)} entries that the size announces`;
  for (const word of words) {
    const v = numberOf(word);
    if (v === undefined) return `"${word.slice(0, 40)}" is no number`;
    if (!Number.isFinite(Math.fround(v))) return `${word} is too large`;
    r.colours[r.filled++] = v;
  }
  return undefined;
}

/** Reads a `.cube` file's text. */
export function parseCube(text: string, name = 'LUT'): Parsed<CubeValue> {
  if (text.length > MOST_BYTES)
    return fault(1, `the file is larger than ${MOST_BYTES / 2 ** 20} MiB`);
  const r: Reading = {
    name,
    kind: undefined,
    size: 0,
    lo: [0, 0, 0],
    hi: [1, 1, 1],
    colours: undefined,
    filled: 0,
  };
  const ends = /\r\n?|\n|$/g;
  let number = 0;
  for (let at = 0; at <= text.length;) {
    ends.lastIndex = at;
    const end = ends.exec(text)!;
    number++;
    if (end.index - at > 4096) return fault(number, 'the line is longer than any of this format');
    const line = text.slice(at, end.index).trim();
    if (line !== '' && !line.startsWith('#')) {
      const words = line.split(/\s+/);
      const wrong = /^[\d.+-]/.test(line)
        ? entry(r, words)
        : header(r, words[0]!, words.slice(1), line);
      if (wrong) return fault(number, wrong);
    }
    if (end[0] === '') break;
    at = end.index + end[0].length;
  }
  if (!r.kind) return fault(number, 'the file names no size (LUT_1D_SIZE or LUT_3D_SIZE)');
  if (!r.colours || r.filled < r.colours.length)
    return fault(number, `the file ends after ${r.filled / 3} of ${entriesOf(r)} entries`);
  if (r.lo.some((l, i) => l >= r.hi[i]!))
    return fault(number, 'DOMAIN_MIN must lie below DOMAIN_MAX in every channel');
  return { value: cubeValue(r.name, r.kind, r.size, r.colours, r.lo, r.hi) };
}

/** A table as the text of a `.cube` file. Reading it back gives the same 32-bit floats. */
export function writeCube(cube: CubeValue, colours: Float32Array): string {
  const lines = [
    `TITLE "${cube.name.replace(/["\r\n]/g, ' ')}"`,
    `LUT_${cube.kind === '3d' ? '3D' : '1D'}_SIZE ${cube.size}`,
    `DOMAIN_MIN ${cube.lo.map(shortest).join(' ')}`,
    `DOMAIN_MAX ${cube.hi.map(shortest).join(' ')}`,
  ];
  for (let i = 0; i < colours.length; i += 3)
    lines.push(
      `${shortest(colours[i]!)} ${shortest(colours[i + 1]!)} ${shortest(colours[i + 2]!)}`,
    );
  return `${lines.join('\n')}\n`;
}
