import { inDomain } from '../../image';
import { number } from '../../parameters';
import { builtStep } from '../declare';
import { smeared } from './smear';

/** Blur along the motion while the shutter is open: length = speed · angle / 360. */
export const motionBlur = builtStep({
  id: 'motion-blur',
  family: 'time',
  label: 'Motion blur',
  help: 'Smears what moves along its own movement, as an open shutter does.',
  domain: 'light',
  uses: { motion: { id: 'angle' } },
  parameters: [
    number('angle', 'Shutter', '°', 0, 1440, 180, {
      neutral: 0,
      soft: [0, 720],
      help: 'At 360° it is open from one frame to the next.',
    }),
    number('phase', 'Opens', '%', -100, 100, 0, {
      help: 'Of its own length earlier (below 0) or later than about the frame.',
    }),
  ],
  build: (input, v, at) => {
    const angle = v.angle;
    const onward = angle === 0 ? undefined : at.motion?.(0);
    if (!onward) return input;
    return smeared(inDomain(input, 'light'), onward, {
      frames: angle / 360,
      from: -0.5 + v.phase / 100,
      how: 'mean',
    });
  },
});
