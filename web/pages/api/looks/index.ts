import { lookList, makeLook } from '../../../../server/projects';
import { body, endpoint, json } from '../../../api/answer';
import { documentOf } from '../../../api/documents';
import { NewLook } from '../../../api/requests';

export const GET = endpoint(async ({ url }) => {
  const page = Math.max(0, Number(url.searchParams.get('page') ?? 0) || 0);
  return json(await lookList(100, page * 100));
});
export const POST = endpoint(async ({ request }) => {
  const { document } = await body(request, NewLook);
  return json(await makeLook(documentOf(document)), 201);
});
