/** Why something failed, in words that may reach a page. */
import { inPlainWords } from './run';

/** Longest reason, characters. */
const MOST = 240;

/**
 * An error as one line for people. The database's own messages hold whole statements with their
 * values, and tools' messages hold paths: neither is shown.
 */
export function reasonOf(e: unknown): string {
  if (!(e instanceof Error)) return 'no reason given';
  const isQuery = e.message.startsWith('Failed query') || 'severity' in e || 'query' in e;
  if (isQuery) return 'the database did not take it';
  const line = inPlainWords(e.message).split('\n')[0]!.trim();
  return line.length > MOST ? `${line.slice(0, MOST)} …` : line || 'no reason given';
}
