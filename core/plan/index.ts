/** From a look, a clip and a frame to a graph of image nodes. */
export { type Asked, momentOf } from './moment';
export { plan, type ClipMoment, type Plan } from './stack';
export { answered, type Idle, IDLE_WORDS, questions } from './contribution';
