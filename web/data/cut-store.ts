/**
 * The cut that is open: its history, and how it gets to the server. What the server does not have yet
 * stays in this browser, also across visits.
 */
import { createStore } from 'zustand/vanilla';
import type { CutDocument } from '../../core';
import { call, isAway, Refused } from './http';
import type { CutView } from './views';

interface Step {
  readonly name: string;
  readonly document: CutDocument;
  /** Changes of one gesture are undone together. */
  readonly gesture: string | undefined;
}
/** Where a cut is. */
export type Kept = 'saved' | 'saving' | 'kept here' | 'refused';
/** Another version of the cut, saved by somebody else meanwhile. */
export type Theirs = Pick<CutView, 'document' | 'revision'>;

/** State of the cut. */
export interface CutState {
  readonly document: CutDocument;
  /** Earlier documents with the names of the changes that followed, oldest first; and undone ones. */
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  readonly kept: Kept;
  readonly trouble: string | null;
  readonly theirs: Theirs | null;
  /** Changes the cut. Changes with the same gesture in a row are one step. */
  edit(name: string, change: (cut: CutDocument) => CutDocument, gesture?: string): void;
  /** The next change is a step of its own. */
  endGesture(): void;
  undo(): void;
  redo(): void;
  /** Somebody saved another revision. */
  heard(view: Theirs): void;
  /** Ends a conflict: takes theirs, or saves one's own over it. */
  settle(take: 'theirs' | 'mine'): void;
  /** Saves at once what is not saved, also while the page closes. */
  flush(lasting?: boolean): Promise<void>;
}

const DRAFT_MS = 150,
  SOON_MS = 350,
  AGAIN_MS = 3000,
  MOST_STEPS = 300;

interface Draft {
  readonly document: CutDocument;
  readonly revision: number;
}
const draftKey = (project: string): string => `wabisabi-cut ${project}`;
function keepDraft(project: string, draft: Draft | null): void {
  try {
    if (draft) localStorage.setItem(draftKey(project), JSON.stringify(draft));
    else localStorage.removeItem(draftKey(project));
  } catch {
    /* without storage it is kept while the page is open */
  }
}
function leftDraft(project: string): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(draftKey(project)) ?? 'null') as Draft | null;
  } catch {
    return null;
  }
}

/** The store of a project's cut. `save`: replaced by tests. */
export function cutStore(
  project: string,
  view: Pick<CutView, 'document' | 'revision'>,
  save = (body: Draft, lasting: boolean) =>
    call<{ revision: number }>('PUT', `/api/projects/${project}/cut`, body, { lasting }),
) {
  const left = leftDraft(project);
  // What an earlier visit could not send goes on where it stopped, or stands beside theirs.
  const mine =
    left && JSON.stringify(left.document) !== JSON.stringify(view.document) ? left : null;
  let revision = mine ? mine.revision : view.revision,
    timer: ReturnType<typeof setTimeout> | undefined,
    running: Promise<void> | undefined;

  const store = createStore<CutState>((set, get) => {
    let saved = mine ? undefined : view.document;
    // While something is dragged the draft is written now and then, not at every move.
    let drafting: ReturnType<typeof setTimeout> | undefined;
    const draftSoon = (): void => {
      drafting ??= setTimeout(() => {
        drafting = undefined;
        const { document, kept } = get();
        if (kept !== 'saved') keepDraft(project, { document, revision });
      }, DRAFT_MS);
    };
    const plan = (after: number): void => {
      clearTimeout(timer);
      timer = setTimeout(() => void get().flush(), after);
    };
    const changed = (document: CutDocument, more: Partial<CutState>): void => {
      set({ document, kept: 'saving', trouble: null, ...more });
      draftSoon();
      if (!get().theirs) plan(SOON_MS);
    };
    const send = async (lasting: boolean): Promise<void> => {
      const { document, theirs } = get();
      if (theirs) return;
      if (document === saved) {
        // Undone before it was sent.
        keepDraft(project, null);
        set({ kept: 'saved' });
        return;
      }
      try {
        ({ revision } = await save({ document, revision }, lasting));
        saved = document;
        if (get().document === document) {
          keepDraft(project, null);
          set({ kept: 'saved', trouble: null });
        } else {
          keepDraft(project, { document: get().document, revision });
          plan(SOON_MS);
        }
      } catch (e) {
        const { message } = e as Error;
        if (isAway(e)) {
          set({ kept: 'kept here' });
          plan(AGAIN_MS);
        } else if (e instanceof Refused && e.status === 409)
          set({ kept: 'kept here', theirs: e.more['now'] as Theirs });
        else set({ kept: 'refused', trouble: message });
      }
    };
    return {
      document: mine ? mine.document : view.document,
      past: [],
      future: [],
      kept: mine ? 'kept here' : 'saved',
      trouble: null,
      theirs: mine && mine.revision !== view.revision ? view : null,
      edit(name, change, gesture) {
        const { document, past } = get(),
          next = change(document);
        if (next === document) return;
        const isSame = gesture !== undefined && past.at(-1)?.gesture === gesture;
        changed(next, {
          past: isSame ? past : [...past, { name, document, gesture }].slice(-MOST_STEPS),
          future: [],
        });
      },
      endGesture() {
        const { past } = get(),
          last = past.at(-1);
        if (last?.gesture !== undefined)
          set({ past: [...past.slice(0, -1), { ...last, gesture: undefined }] });
      },
      undo() {
        const { past, future, document } = get(),
          last = past.at(-1);
        if (last)
          changed(last.document, {
            past: past.slice(0, -1),
            future: [{ ...last, document }, ...future],
          });
      },
      redo() {
        const { past, future, document } = get(),
          [next] = future;
        if (next)
          changed(next.document, {
            past: [...past, { ...next, document }],
            future: future.slice(1),
          });
      },
      heard(theirs) {
        if (theirs.revision <= revision || running) return;
        if (get().kept === 'saved') {
          revision = theirs.revision;
          saved = theirs.document;
          set({ document: theirs.document, past: [], future: [] });
        } else set({ theirs });
      },
      settle(take) {
        const { theirs, document, past } = get();
        if (!theirs) return;
        revision = theirs.revision;
        if (take === 'theirs') {
          saved = theirs.document;
          keepDraft(project, null);
          const step: Step = { name: 'take theirs', document, gesture: undefined };
          set({ document: theirs.document, past: [...past, step], kept: 'saved', theirs: null });
        } else {
          set({ theirs: null });
          changed(document, {});
        }
      },
      async flush(lasting = false) {
        clearTimeout(timer);
        const { document, kept } = get();
        if (kept !== 'saved') keepDraft(project, { document, revision });
        // One after another: each names the revision that the one before made.
        while (running) await running;
        running = send(lasting).finally(() => (running = undefined));
        await running;
      },
    };
  });
  if (mine && !store.getState().theirs) void store.getState().flush();
  return store;
}
/** The store of a cut. */
export type CutStore = ReturnType<typeof cutStore>;
