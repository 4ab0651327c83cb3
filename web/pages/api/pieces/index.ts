import { keepPiece, pieceList } from '../../../../server/looks/pieces';
import { body, endpoint, json } from '../../../api/answer';
import { documentOf } from '../../../api/documents';
import { NewLook } from '../../../api/requests';

/** All pieces, by name. */
export const GET = endpoint(async () => json(await pieceList()));
/** Keeps a piece. */
export const POST = endpoint(async ({ request }) => {
  const { document } = await body(request, NewLook);
  return json({ id: await keepPiece(documentOf(document)) }, 201);
});
