/**
 * Whose turn it is within one worker: a person who waits comes first, then deliveries, then baking
 * and inspections. Work in frames asks for its turn before each.
 */
import { setTimeout as pause } from 'node:timers/promises';

/** Kinds of work, the most urgent first. */
export const TURNS = ['person', 'delivery', 'background'] as const;
/** One of `TURNS`. */
export type Turn = (typeof TURNS)[number];

const underWay: Record<Turn, number> = { person: 0, delivery: 0, background: 0 };
/** Longest wait for one frame, ms: whoever stands back goes on slowly, and never hangs. */
const LONGEST = 300,
  EVERY = 25;

/** Runs work of a kind. */
export async function inTurn<T>(turn: Turn, work: () => Promise<T>): Promise<T> {
  underWay[turn]++;
  try {
    return await work();
  } finally {
    underWay[turn]--;
  }
}

/** Resolves when nothing more urgent is under way in this process, or after a while. */
export async function myTurn(turn: Turn, longest = LONGEST): Promise<void> {
  const before = TURNS.slice(0, TURNS.indexOf(turn));
  const until = performance.now() + longest;
  while (before.some((t) => underWay[t] > 0) && performance.now() < until) await pause(EVERY);
}
