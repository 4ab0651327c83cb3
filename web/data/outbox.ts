/**
 * Edits of clips that the server does not have yet. They are kept in this browser until it does, also
 * across visits.
 */
import type { ClipEdit } from '../../server/clips/clips';
import { openTabs, thisTab } from './tab';

const PREFIX = 'wabisabi-edits';
const keyOf = (project: string, tab: string, at: string): string =>
  [PREFIX, project, tab, at].join(' ');

let tab = '';
void thisTab().then((name) => (tab = name));
let count = 0;

/** Keeps edits; the returned function removes them again. */
export function keepEdits(project: string, edits: readonly ClipEdit[]): () => void {
  const at = `${String(Date.now()).padStart(15, '0')}-${String(count++).padStart(6, '0')}`;
  const key = keyOf(project, tab, at);
  try {
    localStorage.setItem(key, JSON.stringify(edits));
  } catch {
    /* without storage they are kept while the page is open */
  }
  return () => forget(key);
}

/** Edits that an earlier visit could not send. */
interface Left {
  readonly edits: readonly ClipEdit[];
  /** Removes them from where they were kept. */
  readonly forget: () => void;
}
/** The edits of a project that closed tabs could not send, oldest first. */
export async function leftEdits(project: string): Promise<Left[]> {
  const open = await openTabs(),
    own = await thisTab();
  const left = keys()
    .map((key) => ({ key, parts: key.split(' ') }))
    .filter(
      ({ parts: [prefix, of, by] }) =>
        prefix === PREFIX && of === project && (by === own || !open.has(by!)),
    )
    .sort((a, b) => (a.parts[3]! < b.parts[3]! ? -1 : 1));
  return left.flatMap(({ key }) => {
    try {
      const edits = JSON.parse(localStorage.getItem(key) ?? '[]') as ClipEdit[];
      return [{ edits, forget: () => forget(key) }];
    } catch {
      return [];
    }
  });
}
function forget(key: string): void {
  try {
    localStorage.removeItem(key);
  } catch {
    /* there was nothing to remove */
  }
}
function keys(): string[] {
  try {
    return Object.keys(localStorage);
  } catch {
    return [];
  }
}
