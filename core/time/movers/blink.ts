import { choice, number } from '../../parameters';
import { inFrames, TIME_UNIT_WORDS } from '../clip-time';
import { moverKind } from './declare';

/** On and off in a rhythm. */
export const blink = moverKind({
  id: 'blink',
  label: 'Blink',
  help: 'On for a while, off for a while.',
  parameters: [
    number('on', 'On for', '', 0, 1000, 6, { soft: [0, 25] }),
    number('off', 'Off for', '', 0, 1000, 6, { soft: [0, 25] }),
    choice('unit', 'Counted in', TIME_UNIT_WORDS, 'clip-frames'),
  ],
  instants: [{ id: 'from', label: 'Counts from' }],
  signed: false,
  at(v, at) {
    const unit = v.unit;
    const [on, off] = [inFrames(v.on, unit, at), inFrames(v.off, unit, at)];
    const round = on + off;
    if (round <= 0) return 1;
    const since = at.frame - at.events['from']![0]!;
    // Rounding errors of seconds must not cost a frame.
    const within = since - Math.floor((since + 1e-9) / round) * round;
    return within < on - 1e-9 ? 1 : 0;
  },
});
