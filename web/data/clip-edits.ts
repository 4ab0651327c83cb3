/**
 * Edits of clips from a page: sent in one request, undone and redone by name, rejected if someone
 * else was faster.
 */
import { useMutation, useMutationState, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useEffectEvent, useState } from 'react';
import { type ClipDecisions, cutsDecided, type DecisionId, decisionsOf } from '../../core';
import type { ClipEdit } from '../../server/clips/clips';
import { call, isAway, type Refused } from './http';
import { keepEdits, leftEdits } from './outbox';
import type { ClipView, ProjectView } from './views';

const workOf = (c: ClipView): ClipDecisions => ({
  ...decisionsOf(c),
  version: c.look?.versionId ?? null,
});

/** An edit of a clip, with the values it replaces. */
export function editOf(clip: ClipView, to: Partial<ClipDecisions>): ClipEdit {
  const now = workOf(clip);
  const was = Object.fromEntries(Object.keys(to).map((key) => [key, now[key as DecisionId]]));
  return { clip: clip.id, was, to };
}
/** The edits that undo the given ones. */
export const backwards = (edits: readonly ClipEdit[]): ClipEdit[] =>
  edits.map(({ clip, was, to }) => ({ clip, was: to, to: was }));

/**
 * A project with edits applied, as far as the page can tell; it knows little about other look
 * versions.
 */
function withEdits<P extends ProjectView | undefined>(p: P, edits: readonly ClipEdit[]): P {
  if (!p) return p;
  const all = [...p.clips, ...p.plates].map((c) => {
    const { version: _, ...to } = edits.find((e) => e.clip === c.id)?.to ?? {};
    return Object.keys(to).length > 0
      ? { ...c, ...to, cuts: cutsDecided(c.cutsFound, to.cutsSaid ?? c.cutsSaid) }
      : c;
  });
  return {
    ...p,
    clips: all.filter((c) => c.role === 'clip'),
    plates: all.filter((c) => c.role === 'plate'),
  };
}

/** Key of pending edits of a project's clips. */
const sendingKey = (project: string): readonly string[] => ['clip edits', project];

/** Time before edits that could not be sent are sent again, ms. */
const AGAIN = 2000;

/**
 * Sends edits one after another. The page shows them at once, and the server's answer afterwards.
 * While the server is away they are kept in this browser and sent again and again.
 */
export function useEditMutation(
  project: string,
): (edits: readonly ClipEdit[]) => Promise<Refused | null> {
  const queries = useQueryClient();
  const key = ['project', project],
    mutationKey = sendingKey(project);
  const { mutateAsync } = useMutation({
    mutationKey,
    // Mutations of one scope run one after another.
    scope: { id: mutationKey.join(' ') },
    networkMode: 'always',
    retry: (_, e) => isAway(e),
    retryDelay: AGAIN,
    mutationFn: (edits: readonly ClipEdit[]) =>
      call('POST', `/api/projects/${project}/clips`, { clips: edits }, { lasting: true }).then(
        () => null,
        (e: Refused) => {
          if (isAway(e)) throw e;
          return e;
        },
      ),
    onSuccess: async (refused) => {
      const isLast = queries.isMutating({ mutationKey }) === 1;
      if (isLast || refused) await queries.invalidateQueries({ queryKey: key });
    },
  });
  return async (edits) => {
    queries.setQueryData<ProjectView>(key, (p) => withEdits(p, edits));
    const done = keepEdits(project, edits);
    const answer = await mutateAsync(edits);
    done();
    return answer;
  };
}

/**
 * Sends what an earlier visit could not. Returns what was overtaken meanwhile, as text; null for
 * nothing.
 */
export function useLeftEdits(project: string): string | null {
  const send = useEditMutation(project);
  const [trouble, setTrouble] = useState<string | null>(null);
  const sendLeft = useEffectEvent(async () => {
    for (const { edits, forget } of await leftEdits(project)) {
      const sent = send(edits);
      // They are kept as this visit's now; those that come after stay where they are until then.
      forget();
      const refused = await sent;
      if (refused) setTrouble(`an edit of your last visit was overtaken: ${refused.message}`);
    }
  });
  useEffect(() => void sendLeft(), [project]);
  return trouble;
}

/**
 * Applies pending edits to the server's data, so that a query started before them does not hide
 * them.
 */
export function usePendingEdits(project: string): (p: ProjectView) => ProjectView {
  const sent = useMutationState({
    filters: { mutationKey: sendingKey(project), status: 'pending' },
    select: (m) => m.state.variables as readonly ClipEdit[],
  });
  return useCallback((p) => sent.reduce((all, edits) => withEdits(all, edits), p), [sent]);
}

interface Done {
  readonly name: string;
  readonly edits: readonly ClipEdit[];
}
/** The history of a project's edits. */
export interface ClipEdits {
  readonly past: readonly Done[];
  readonly future: readonly Done[];
  readonly edit: (name: string, edits: readonly ClipEdit[]) => Promise<void>;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** Edits of a project's clips. `onTrouble` is called with rejections. */
export function useClipEdits(project: string, onTrouble: (text: string) => void): ClipEdits {
  const sending = useEditMutation(project);
  const [past, setPast] = useState<readonly Done[]>([]),
    [future, setFuture] = useState<readonly Done[]>([]);
  /** Sends edits and reports rejections and failures. */
  const send = async (edits: readonly ClipEdit[]): Promise<'done' | 'overtaken' | 'failed'> => {
    const refused = await sending(edits);
    if (refused) onTrouble(refused.message);
    return refused ? (refused.status === 409 ? 'overtaken' : 'failed') : 'done';
  };
  const without = (one: Done) => (all: readonly Done[]) => all.filter((d) => d !== one);
  // The history changes at once, so that the next undo concerns the last edit even before the
  // answer.
  const go = async (
    one: Done,
    edits: readonly ClipEdit[],
    from: typeof setPast,
    to: typeof setPast,
  ): Promise<void> => {
    from(without(one));
    to((all) => [...all, one]);
    const end = await send(edits);
    if (end === 'done') return;
    to(without(one));
    // Edits that others have overtaken can never be undone or redone; edits that only failed can.
    if (end === 'failed') from((all) => [...all, one]);
  };
  return {
    past,
    future,
    edit: async (name, edits) => {
      if (edits.length === 0) return;
      const one = { name, edits };
      setFuture([]);
      setPast((all) => [...all, one]);
      if ((await send(edits)) !== 'done') setPast(without(one));
    },
    undo: () => {
      const last = past.at(-1);
      if (last) void go(last, backwards(last.edits), setPast, setFuture);
    },
    redo: () => {
      const next = future.at(-1);
      if (next) void go(next, next.edits, setFuture, setPast);
    },
  };
}
