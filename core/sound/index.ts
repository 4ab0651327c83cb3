/** Sound as arithmetic: the same samples on a page, on the server and in the terminal. */
export {
  alongRetime,
  type Channels,
  type Position,
  retimedSound,
  samplesOf,
  SOUND_RATE,
} from './retimed';
export { interleaved, waveHead } from './wave';
export { type Loudness, loudness } from './loudness';
