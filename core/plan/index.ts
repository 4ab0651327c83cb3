/** From a look, a clip and a frame to a graph of image nodes. */
export { type Asked, clipFrame } from './clip-frame';
export { plan, type ClipFrame, type Plan } from './compositor';
export { answered, type Idle, IDLE_WORDS, questions } from './contribution';
