import { lookList, makeLook } from '../../../../server/looks/versions';
import { body, endpoint, json } from '../../../api/answer';
import { documentOf } from '../../../api/documents';
import { NewLook } from '../../../api/requests';

/** More pages than any Shelf has. */
const MOST_PAGES = 100_000;

/** A page of looks, by name. */
export const GET = endpoint(async ({ url }) => {
  const asked = Math.floor(Number(url.searchParams.get('page') ?? 0)) || 0;
  const page = Math.max(0, Math.min(asked, MOST_PAGES));
  return json(await lookList(100, page * 100));
});
/** Adds a look. */
export const POST = endpoint(async ({ request }) => {
  const { document } = await body(request, NewLook);
  return json(await makeLook(documentOf(document)), 201);
});
