/** What people decide about clips (name, encoding, look, trims, balance, status …): changed for many at once, or not at all. */
import { isDeepStrictEqual } from 'node:util';
import type { Retime } from '../core/time';
import { and, eq, inArray } from 'drizzle-orm';
import type { Balance, ClipPins, DialValues, EncodingId, Fit, FlagKind, PlatePoints, Reframe, Sampling } from '../core';
import { db, tables } from './database';
import { tell } from './events';
import { type Measured, queueMeasure } from './jobs/measure';

const { clips, projects } = tables;

/** A clip's trims, by the look they belong to. */
export type TrimsByLook = Readonly<Record<string, DialValues>>;
/** Flags that were looked at and are meant, by kind: why, and how much of it there was then. */
export type AcceptedFlags = Readonly<Partial<Record<FlagKind, { readonly reason: string; readonly worst: number }>>>;
export interface ClipWork {
  readonly name: string;
  readonly encoding: EncodingId;
  /** What of its samples is not as the file's tags say; none: all is. */
  readonly sampling: Sampling | null;
  /** The look version it wears. */
  readonly version: string | null;
  /** Whether it goes on to the look's next version when one is saved; otherwise it stays. */
  readonly follows: boolean;
  readonly trims: TrimsByLook;
  readonly pins: ClipPins;
  readonly balance: Balance | null;
  readonly fit: Fit;
  /** What of it lies in the middle of the frame, and how large; none: its own middle, as large as it fits or fills. */
  readonly reframe: Reframe | null;
  /** Its speed along its own time; none: as it was shot. */
  readonly retime: Retime | null;
  /** Black and white of a plate; none: as they were found. */
  readonly plate: PlatePoints | null;
  readonly accepted: AcceptedFlags;
  readonly status: 'open' | 'in work' | 'agreed';
  readonly note: string;
  /** Shown and delivered itself, or used as material by looks. */
  readonly role: 'clip' | 'plate';
  /** A name that it shares with the clips it belongs with. */
  readonly scene: string;
}
/** `was` holds what `to` replaces: where a clip holds anything else, someone else changed it meanwhile. */
export interface ClipEdit {
  readonly clip: string;
  readonly was: Partial<ClipWork>;
  readonly to: Partial<ClipWork>;
}

/** A clip is not as it was seen any more. */
export class ChangedMeanwhile extends Error {}

const WORDS: Record<keyof ClipWork, string> = {
  name: 'has another name',
  encoding: 'is read in another encoding',
  sampling: 'has its samples read otherwise',
  version: 'was given another look',
  follows: 'follows or stays otherwise',
  trims: 'was trimmed anew',
  pins: 'has other pins',
  balance: 'was balanced anew',
  fit: 'lies otherwise in the frame',
  reframe: 'was reframed anew',
  retime: 'was retimed anew',
  plate: 'has other plate points',
  accepted: 'had flags accepted or taken back',
  status: 'has another status',
  note: 'has another note',
  role: 'is used otherwise',
  scene: 'belongs to another scene',
};
const keysOf = (part: Partial<ClipWork>): (keyof ClipWork)[] => (Object.keys(part) as (keyof ClipWork)[]).filter((key) => part[key] !== undefined);
/** Without the classes that requests are read into. */
const plain = (v: unknown): unknown => JSON.parse(JSON.stringify(v)) as unknown;

/** Changes clips of a project, all or (if someone changed one of them meanwhile) none. Throws `ChangedMeanwhile`. */
export async function editClips(projectId: string, edits: readonly ClipEdit[]): Promise<number> {
  const ids = edits.map((e) => e.clip);
  const reread: Measured[] = [];
  await db().transaction(async (tx) => {
    const rows = await tx
      .select()
      .from(clips)
      .where(and(eq(clips.projectId, projectId), inArray(clips.id, ids)))
      .orderBy(clips.id)
      .for('update');
    for (const { clip, was, to } of edits) {
      const row = rows.find((r) => r.id === clip);
      if (!row) throw new ChangedMeanwhile('a clip has gone');
      const now: ClipWork = { ...row, version: row.lookVersionId };
      const other = keysOf(to).find((key) => !isDeepStrictEqual(plain(now[key]), plain(was[key] ?? null)));
      if (other) throw new ChangedMeanwhile(`${row.name} ${WORDS[other]}`);
      const { version, ...rest } = plain(to) as Partial<ClipWork>;
      if (rest.encoding !== undefined || rest.sampling !== undefined) reread.push({ ...row, ...rest });
      await tx
        .update(clips)
        .set({ ...rest, ...(version !== undefined && { lookVersionId: version }) })
        .where(eq(clips.id, clip));
    }
    await tx.update(projects).set({ touched: new Date() }).where(eq(projects.id, projectId));
  });
  await queueMeasure(reread);
  await tell({ project: projectId, what: 'clips' });
  return edits.length;
}
