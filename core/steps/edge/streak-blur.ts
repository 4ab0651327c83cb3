import { stencil, imageOp, type ImageNode } from '../../graph';
import { column, cosTurnsd, row, sample, sinTurnsd, toFloat } from '../../kernel';
import { choice, number } from '../../parameters';
import { builtStep, pixels } from '../declare';

/**
 * The mean of four places a step apart. Passes with steps of L/4, L/16, … give the mean of a line
 * of length L.
 */
function pass(from: ImageNode, dx: number, dy: number, start: number): ImageNode {
  return imageOp({
    shape: `streak-${from.planes}`,
    inputs: [stencil(from)],
    planes: from.planes,
    domain: from.domain,
    params: [dx, dy, start],
    ints: [from.width, from.height],
    build: (b) => {
      const [x, y] = [toFloat(column()), toFloat(row())];
      return Array.from({ length: from.planes }, (_, p) =>
        [0, 1, 2, 3]
          .map((i) =>
            sample(
              b.image(0),
              p,
              x.add(b.param(0).mul(b.param(2).add(i))),
              y.add(b.param(1).mul(b.param(2).add(i))),
              b.int(0),
              b.int(1),
            ),
          )
          .reduce((s, v) => s.add(v))
          .mul(0.25),
      );
    },
  });
}

/** Blur along a line. */
export const streakBlur = builtStep({
  id: 'streak-blur',
  family: 'edge',
  label: 'Streak blur',
  help: 'Draws the picture out one way, as if it moved while it was taken.',
  domain: 'light',
  start: { length: 90 },
  parameters: [
    number('length', 'Length', 'lines', 0, 2160, 0, { soft: [0, 400] }),
    number('turn', 'Turn', '°', -3600, 3600, 0, { soft: [-90, 90] }),
    choice('to', 'To', { both: 'both sides', one: 'one side' }, 'both'),
  ],
  build: (input, v, at) => {
    const length = pixels(v.length, at);
    if (length < 0.05) return input;
    const turn = v.turn / 360;
    const [ux, uy] = [cosTurnsd(turn), sinTurnsd(turn)];
    const both = v.to === 'both';
    let picture = input;
    // Down to steps of half a pixel, below which bilinear sampling suffices.
    for (let step = length / 4; ; step /= 4) {
      picture = pass(picture, ux * step, uy * step, both ? -1.5 : 0);
      if (step <= 0.5) return picture;
    }
  },
});
