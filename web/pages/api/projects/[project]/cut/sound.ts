import { interleaved, SOUND_RATE } from '../../../../../../core';
import { cutOf } from '../../../../../../server/cuts/cuts';
import { openMix } from '../../../../../../server/cuts/mixing';
import { openCut } from '../../../../../../server/cuts/open';
import type { CutMix } from '../../../../../../server/media/cut-mix';
import { cutSnapshotOf } from '../../../../../../server/deliveries/snapshot';
import { endpoint, notFound, Problem } from '../../../../../api/answer';
import { projectIn } from '../../../../../api/project';

/** Most samples of one answer. */
const MOST = 20 * SOUND_RATE;
/** The mix of the revision that was asked for last, by project: a page asks block after block. */
const opened = new Map<string, { readonly revision: number; readonly mix: Promise<CutMix> }>();
const MOST_OPEN = 8;

async function mixOf(project: string): Promise<CutMix> {
  const { document, revision } = await cutOf(project);
  const known = opened.get(project);
  if (known?.revision === revision) return known.mix;
  const open = async (): Promise<CutMix> => {
    const snapshot = await cutSnapshotOf(project, document, true);
    if (!snapshot) throw notFound('project');
    return openMix(await openCut(snapshot), snapshot);
  };
  const mix = open();
  opened.delete(project);
  opened.set(project, { revision, mix });
  mix.catch(() => opened.delete(project));
  for (const oldest of opened.keys()) if (opened.size > MOST_OPEN) opened.delete(oldest);
  return mix;
}

/**
 * Samples of the cut’s mix, from `first` on: two channels of 32-bit floats, interleaved, 48,000 a
 * second.
 */
export const GET = endpoint(async (c) => {
  const asked = (name: string): number => Number(c.url.searchParams.get(name) ?? NaN);
  const [first, count] = [asked('first'), asked('count')];
  if (
    !Number.isInteger(first) ||
    !Number.isInteger(count) ||
    first < 0 ||
    count < 1 ||
    count > MOST
  )
    throw new Problem(
      422,
      'No such samples',
      `Ask with first (0 or more) and count (1 to ${MOST}), in samples.`,
    );
  const mix = await mixOf(await projectIn(c));
  const block = interleaved(await mix.block(first, count));
  return new Response(new Uint8Array(block.buffer), {
    headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' },
  });
});
