import { inWords, readLook } from '../../../../core';
import { lookList, makeLook } from '../../../../server/projects';
import { body, endpoint, json, Problem } from '../../../api/answer';
import { NewLook } from '../../../api/requests';

export const GET = endpoint(async ({ url }) => {
  const page = Math.max(0, Number(url.searchParams.get('page') ?? 0) || 0);
  return json(await lookList(100, page * 100));
});
export const POST = endpoint(async ({ request }) => {
  const read = readLook((await body(request, NewLook)).document);
  if ('faults' in read) throw new Problem(422, 'Not a look that can be used', inWords(read.faults), { faults: read.faults });
  return json(await makeLook(read.look), 201);
});
