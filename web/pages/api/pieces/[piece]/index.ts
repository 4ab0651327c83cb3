import { dropPiece } from '../../../../../server/looks/pieces';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Removes a piece. */
export const DELETE = endpoint(async (c) => {
  if (!(await dropPiece(id(c, 'piece', 'piece')))) throw notFound('piece');
  return json({});
});
