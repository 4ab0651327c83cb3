/** Sound as arithmetic: the same samples on a page, on the server and in the terminal. */
export {
  alongRetime,
  type Channels,
  type Position,
  retimedSound,
  samplesOf,
  SOUND_RATE,
} from './retimed';
export {
  barAt,
  type Beats,
  BEATS_FOUND,
  beatsAs,
  type BeatsSaid,
  COUNTED,
  countedBy,
  type FoundStretch,
  joinedBeats,
  MOST_OF_A_BAR,
} from './beats';
export { interleaved, waveHead } from './wave';
export { type Loudness, loudness, LoudnessMeter } from './loudness';
export { type Alignment, alignment, ALIGNMENT_METHOD, ALIGNMENT_RATE, SURE } from './alignment';
export { type KeptLoudness, keptLoudness, type SoundFacts } from './facts';
export { loudnessInShort, loudnessInWords } from './words';
export {
  columnsOf,
  PEAK_ZOOMS,
  PeakMeter,
  type Peaks,
  PEAKS_METHOD,
  type PeakZoom,
  zoomFor,
} from './peaks';
