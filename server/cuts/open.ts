/** A snapshot of a cut with the facts of its footage, as pictures and the mix need it. */
import { type Cut, type CutClip, shownOf } from '../../core';
import type { CutSnapshot, SnapshotClip } from '../database/columns';
import { originalOf } from '../footage/original';
import type { Footage } from '../media/footage';

/** A clip of a cut with its footage. */
export interface OpenClip extends CutClip {
  readonly snapshot: SnapshotClip;
  readonly facts: Footage;
}

/** Opens a snapshot; clips whose footage has gone are missing. */
export async function openCut(snapshot: CutSnapshot): Promise<Cut<OpenClip>> {
  const clips: Record<string, OpenClip> = {};
  for (const [id, of] of Object.entries(snapshot.clips)) {
    const original = await originalOf(of.hash);
    if (!original) continue;
    const { facts } = original;
    clips[id] = {
      ...shownOf(of.subject),
      id,
      name: of.name,
      hash: of.hash,
      rate: facts.rate,
      frames: facts.frames,
      cuts: of.subject.cuts,
      look: of.look,
      snapshot: of,
      facts,
    };
  }
  const { document, rate, looks } = snapshot;
  return { document, rate, looks, clips };
}
