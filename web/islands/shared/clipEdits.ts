/** Changes to clips from a page: sent all at once, undone and redone by name, refused where someone else was quicker. */
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { ClipEdit, ClipWork } from '../../../server/clips';
import { call, type Refused } from '../../api/client';
import type { ClipView } from '../../api/views';

const workOf = (c: ClipView): ClipWork => ({
  version: c.look?.versionId ?? null,
  follows: c.follows,
  trims: c.trims,
  balance: c.balance,
  accepted: c.accepted,
  status: c.status,
  note: c.note,
  scene: c.scene,
});

/** The change of a clip, with what it replaces. */
export function editOf(clip: ClipView, to: Partial<ClipWork>): ClipEdit {
  const now = workOf(clip);
  const was = Object.fromEntries(Object.keys(to).map((key) => [key, now[key as keyof ClipWork]]));
  return { clip: clip.id, was, to };
}
const backwards = (edits: readonly ClipEdit[]): ClipEdit[] => edits.map(({ clip, was, to }) => ({ clip, was: to, to: was }));

interface Done {
  readonly name: string;
  readonly edits: readonly ClipEdit[];
}
export interface ClipEdits {
  readonly past: readonly Done[];
  readonly future: readonly Done[];
  readonly edit: (name: string, edits: readonly ClipEdit[]) => Promise<void>;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** Edits of a project's clips; `onTrouble` hears what was refused. */
export function useClipEdits(project: string, onTrouble: (text: string) => void): ClipEdits {
  const queries = useQueryClient();
  const [past, setPast] = useState<readonly Done[]>([]),
    [future, setFuture] = useState<readonly Done[]>([]);
  const send = async (edits: readonly ClipEdit[]): Promise<'done' | 'overtaken' | 'failed'> => {
    let end: 'done' | 'overtaken' | 'failed' = 'done';
    try {
      await call('POST', `/api/projects/${project}/clips`, { clips: edits });
    } catch (e) {
      end = (e as Refused).status === 409 ? 'overtaken' : 'failed';
      onTrouble((e as Refused).message);
    }
    await queries.invalidateQueries({ queryKey: ['project', project] });
    return end;
  };
  return {
    past,
    future,
    edit: async (name, edits) => {
      if (edits.length === 0 || (await send(edits)) !== 'done') return;
      setPast((p) => [...p, { name, edits }]);
      setFuture([]);
    },
    undo: () => {
      const last = past.at(-1);
      if (!last) return;
      void send(backwards(last.edits)).then((end) => {
        // What others have overtaken can never be undone again.
        if (end !== 'failed') setPast((p) => p.slice(0, -1));
        if (end === 'done') setFuture((f) => [...f, last]);
      });
    },
    redo: () => {
      const next = future.at(-1);
      if (!next) return;
      void send(next.edits).then((end) => {
        if (end !== 'failed') setFuture((f) => f.slice(0, -1));
        if (end === 'done') setPast((p) => [...p, next]);
      });
    },
  };
}
