/** Unsaved edits of looks, kept in the browser: one draft of a look for each tab. */
import { type LookDocument, upToDate } from '../../../core';

const DRAFTS = 'wabisabi-draft-';
const draftKey = (lookId: string, tab: string): string =>
  `${DRAFTS}${lookId}${tab === '' ? '' : ` ${tab}`}`;

/** Unsaved edits of a look. */
interface Draft {
  /** Number of the version that they began with. */
  readonly basedOn: number;
  readonly look: LookDocument;
}
/**
 * Unsaved edits of this look from an earlier visit: this tab's, else those that a closed tab left
 * (`open`: the tabs that are not closed), which become this tab's.
 */
export function draftOf(
  lookId: string,
  tab = '',
  open: ReadonlySet<string> = new Set(),
): Draft | null {
  try {
    const own = draftKey(lookId, tab);
    const isLeft = (key: string): boolean =>
      key === draftKey(lookId, '') ||
      (key.startsWith(`${DRAFTS}${lookId} `) && !open.has(key.split(' ')[1]!));
    const isOwn = localStorage.getItem(own) !== null,
      key = isOwn ? own : Object.keys(localStorage).find(isLeft);
    const text = key === undefined ? null : localStorage.getItem(key);
    if (text === null) return null;
    if (key !== own) {
      localStorage.setItem(own, text);
      localStorage.removeItem(key!);
    }
    const kept = JSON.parse(text) as Draft;
    return { ...kept, look: upToDate(kept.look) };
  } catch {
    return null;
  }
}
/** Keeps a tab's unsaved edits of a look; null for none. */
export function keepDraft(lookId: string, tab: string, draft: Draft | null): void {
  try {
    const key = draftKey(lookId, tab);
    if (draft) localStorage.setItem(key, JSON.stringify(draft));
    else localStorage.removeItem(key);
  } catch {
    /* without storage only the draft is lost */
  }
}
