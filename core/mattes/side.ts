/** One side of a line across the picture, or a band along it, as wipes use it. */
import { imageOp } from '../graph';
import { column, row, smoothstep, toFloat } from '../kernel';
import { line, number, type Point } from '../parameters';
import { acrossLine, inLines } from '../steps';
import { matteKind } from './declare';
import { FEATHERS } from './shapes';

/** A side of the picture. */
export const side = matteKind({
  id: 'side',
  label: 'Side',
  help: 'What lies beyond a place of a line, or a band that lies across it; move the place and it crosses the picture.',
  parameters: [
    line('way', 'Way', [0, 0.5, 1, 0.5]),
    number('place', 'Place', '%', -100, 200, 50, { soft: [0, 100], help: 'Along the way.' }),
    number('width', 'Width', 'lines', 0, 2160, 0, {
      soft: [0, 300],
      help: 'Of a band; with 0 all that lies beyond.',
    }),
    ...FEATHERS,
  ],
  outline: (v, at) => {
    const [nx, ny, along] = acrossLine(v.way, v.place, at);
    // The points of the edge that are nearest to the frame's corners.
    return [0, 1, 2, 3].map((i): Point => {
      const [x, y] = inLines([i % 2, i >> 1], at);
      const apart = x * nx + y * ny - along;
      return [
        ((x - apart * nx) * at.height) / (1080 * at.width) + 0.5,
        (y - apart * ny) / 1080 + 0.5,
      ];
    });
  },
  cover: (v, at) => {
    const [nx, ny, along] = acrossLine(v.way, v.place, at);
    const lines = 1080 / at.height,
      half = 0.5 * lines,
      band = v.width > 0;
    return imageOp({
      shape: `matte-${band ? 'band' : 'side'}`,
      inputs: [],
      planes: 1,
      domain: 'none',
      width: at.width,
      height: at.height,
      params: [
        nx * lines,
        ny * lines,
        (0.5 - at.width / 2) * lines * nx + (0.5 - at.height / 2) * lines * ny - along,
        -Math.max(v['feather-in'], half),
        Math.max(v['feather-out'], half),
        v.width / 2,
      ],
      build: (b) => {
        const beyond = toFloat(column())
          .mul(b.param(0))
          .add(toFloat(row()).mul(b.param(1)))
          .add(b.param(2));
        // Distance to the edge; negative inside.
        const apart = band ? beyond.abs().sub(b.param(5)) : beyond.neg();
        return [smoothstep(b.param(3), b.param(4), apart).neg().add(1)];
      },
    });
  },
});
