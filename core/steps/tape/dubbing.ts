import { number } from '../../parameters';
import { builtStep } from '../declare';
import { shown, tapeOf } from './raster';

/** Copies of copies. */
export const dubbing = builtStep({
  id: 'dubbing',
  family: 'tape',
  label: 'Dubbing',
  help: 'A copy of a copy: all tape steps directly below once more for each, with noise and faults of their own.',
  domain: 'encoded',
  example: { copies: 4 },
  exampleOn: [
    { step: 'tape-signal', values: { grade: 'home-long' } },
    { step: 'tape-noise', values: { grade: 'home-long', luma: 120, colour: 100 } },
  ],
  parameters: [
    number('copies', 'Generation', '', 1, 8, 1, { soft: [1, 5], help: '1 is the tape itself.' }),
  ],
  build: (input, v) => {
    const stage = tapeOf(input),
      copies = Math.round(v.copies);
    if (!stage || copies <= 1) return input;
    let raster = stage.raster;
    for (let generation = 2; generation <= copies; generation++)
      for (const work of stage.works) raster = work(raster, generation);
    return shown({ ...stage, raster, works: [] });
  },
});
