/** The transitions that ship: looks that take both sides of an overlap. */
import type { LookDocument } from '../../look';
import dip from './dip.json';
import flash from './flash.json';
import mix from './mix.json';
import push from './push.json';
import torn from './torn.json';
import wipe from './wipe.json';

/** A transition. */
export interface Transition {
  readonly id: string;
  readonly help: string;
  readonly look: LookDocument;
}
/** All transitions that ship. */
export const TRANSITIONS: readonly Transition[] = [
  { id: 'mix', help: 'One fades into the other.', look: mix as unknown as LookDocument },
  {
    id: 'flash',
    help: 'A burst of light, and behind it the other.',
    look: flash as unknown as LookDocument,
  },
  {
    id: 'wipe',
    help: 'An edge goes across at any angle, hard, soft or shining.',
    look: wipe as unknown as LookDocument,
  },
  {
    id: 'torn',
    help: 'What comes lies on paper torn along its edge.',
    look: torn as unknown as LookDocument,
  },
  { id: 'dip', help: 'Down to a colour and up again.', look: dip as unknown as LookDocument },
  {
    id: 'push',
    help: 'What comes pushes what goes aside, both smeared.',
    look: push as unknown as LookDocument,
  },
];
/** A transition that ships, by its id. */
export const transitionNamed = (id: string): Transition | undefined =>
  TRANSITIONS.find((t) => t.id === id);
/** Whether a look takes the sides of an overlap. */
export const isTransition = (look: LookDocument): boolean =>
  look.pins?.some((p) => p.side !== undefined) ?? false;
