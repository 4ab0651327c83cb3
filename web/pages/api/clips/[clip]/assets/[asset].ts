import type { APIContext } from 'astro';
import { FRAME_ASSET_IDS, WHOLE_ASSET_IDS } from '../../../../../../core';
import { queueAsset, stopAsset } from '../../../../../../server/assets/assets';
import { WHOLES } from '../../../../../../server/assets/whole';
import { body, endpoint, id, json, notFound } from '../../../../../api/answer';
import { AssetFrom } from '../../../../../api/requests';

function kindIn<K extends string>(c: APIContext, kinds: readonly K[]): K {
  const kind = kinds.find((k) => k === c.params['asset']);
  if (!kind) throw notFound('asset');
  return kind;
}

/**
 * What is found in all of a clip's footage, as far as its parts are made. `within` limits it to a
 * matte, by its pin.
 */
export const GET = endpoint(async (c) => {
  const find = WHOLES[kindIn(c, WHOLE_ASSET_IDS)];
  const found = await find(id(c, 'clip', 'clip'), c.url.searchParams.get('within') ?? undefined);
  if (!found) throw notFound('clip');
  return json(found);
});

/** Starts making an asset of a clip's footage at the frame `from`. */
export const POST = endpoint(async (c) => {
  const kind = kindIn(c, FRAME_ASSET_IDS),
    { from } = await body(c.request, AssetFrom);
  if (!(await queueAsset(id(c, 'clip', 'clip'), kind, from))) throw notFound('clip');
  return json({}, 202);
});

/** Stops making an asset; parts that are made stay. */
export const DELETE = endpoint(async (c) => {
  if (!(await stopAsset(id(c, 'clip', 'clip'), kindIn(c, FRAME_ASSET_IDS)))) throw notFound('clip');
  return json({}, 202);
});
