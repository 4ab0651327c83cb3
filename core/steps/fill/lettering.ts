import { pointwise, Hasher, type Leaf, imageOp } from '../../graph';
import { filled, type Outline } from '../../image';
import { choice, colour, number, point, type ValuesOf } from '../../parameters';
import { linearColour } from '../colour-values';
import { builtStep, inLines, type FrameContext } from '../declare';
import { type Face, FACES, outlinesOf } from './faces';
import { over } from './over';

const two = (n: number): string => String(n).padStart(2, '0');
const DAY = 86400;

/**
 * A time of day (`21:04` or `21:04:35`) a number of whole seconds later, in the same notation;
 * other text is unchanged.
 */
export function clockAfter(text: string, seconds: number): string {
  return text.replace(
    /(\d{1,2}):(\d{2})(?::(\d{2}))?/,
    (_, h: string, m: string, s: string | undefined) => {
      const at =
        (((Number(h) * 3600 + Number(m) * 60 + Number(s ?? 0) + Math.floor(seconds)) % DAY) + DAY) %
        DAY;
      return `${two(Math.floor(at / 3600))}:${two(Math.floor(at / 60) % 60)}${s === undefined ? '' : `:${two(at % 60)}`}`;
    },
  );
}

const PARAMETERS = [
  { kind: 'text', id: 'text', label: 'Text', default: '17 11 04  21:04:35' },
  choice('runs', 'Runs', { still: 'stands', clock: 'as a clock' }, 'still', {
    help: 'As a clock, the first time of day in the text runs in clip time.',
  }),
  choice('face', 'Face', { numbers: 'even widths', words: 'words' }, 'numbers'),
  number('size', 'Size', 'lines', 4, 1080, 44, {
    soft: [10, 300],
    help: 'The height of a capital.',
  }),
  number('spacing', 'Spacing', '%', -100, 400, 0, { soft: [-20, 100] }),
  choice('align', 'Align', { left: 'left', middle: 'middle', right: 'right' }, 'left'),
  point('place', 'Place', [0.06, 0.9]),
  colour('colour', 'Colour', [1, 1, 1]),
  number('cover', 'Cover', '%', 0, 100, 100),
  number('lit', 'Lit', 'frames', 1, 1000, 12, { soft: [1, 50] }),
  number('dark', 'Dark', 'frames', 0, 1000, 0, {
    soft: [0, 50],
    help: 'Between its times lit; 0 is always lit.',
  }),
] as const;
type Lettering = ValuesOf<typeof PARAMETERS>;

/** Lines of text as outlines, in shares of the frame. */
function set(text: string, face: Face, v: Lettering, at: FrameContext): Outline[] {
  const size = v.size / face.capital,
    gap = v.spacing / 100;
  const rows = text.split('\n');
  const step = v.size * 1.7;
  const [x0, y0] = inLines(v.place, at);
  return rows.flatMap((row, i) => {
    const letters = [...row].map((c) => face.glyphs[c] ?? face.glyphs['?']!);
    const wide =
      letters.reduce((w, [advance]) => w + advance * size + gap * v.size, 0) -
      (letters.length > 0 ? gap * v.size : 0);
    let x = x0 - wide * { left: 0, middle: 0.5, right: 1 }[v.align];
    // The middle of the first row's capitals is at the place.
    const y = y0 + v.size / 2 + (i - (rows.length - 1) / 2) * step;
    return letters.flatMap(([advance, path]) => {
      const left = x;
      x += advance * size + gap * v.size;
      return outlinesOf(path).map((o) =>
        o.map(
          ([u, w]) =>
            [
              0.5 + ((left + u * size) * at.height) / 1080 / at.width,
              0.5 + (y + w * size) / 1080,
            ] as const,
        ),
      );
    });
  });
}

function lettersLeaf(text: string, v: Lettering, at: FrameContext): Leaf {
  const { width, height } = at;
  const key = new Hasher()
    .text('letters')
    .text(text)
    .text(v.face)
    .text(v.align)
    .int(width)
    .int(height);
  [v.size, v.spacing, ...v.place].forEach((n) => key.float(n));
  let cover: Float32Array | undefined;
  return {
    kind: 'leaf',
    key: key.hex(),
    width,
    height,
    planes: 1,
    domain: 'none',
    load: (_, into) => {
      cover ??= filled(set(text, FACES[v.face], v, at), width, height);
      for (let y = 0; y < height; y++) into(y).set(cover.subarray(y * width, (y + 1) * width));
    },
  };
}

/** Text. */
export const lettering = builtStep({
  id: 'lettering',
  family: 'fill',
  label: 'Lettering',
  help: 'Words, a date or a running clock, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  parameters: PARAMETERS,
  build: (input, v, at) => {
    const [lit, dark] = [Math.round(v.lit), Math.round(v.dark)];
    if (dark > 0 && at.frame % (lit + dark) >= lit) return input;
    const text = v.runs === 'clock' ? clockAfter(v.text, at.seconds) : v.text;
    return imageOp({
      shape: `lettering-${input.planes}`,
      inputs: [pointwise(input), pointwise(lettersLeaf(text, v, at))],
      planes: input.planes,
      domain: 'light',
      params: [...linearColour(v.colour), v.cover / 100],
      build: (b) =>
        over(b.pixel(0), [b.param(0), b.param(1), b.param(2)], b.pixel(1)[0]!.mul(b.param(3))),
    });
  },
});
