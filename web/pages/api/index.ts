import { endpoint, json } from '../../api/answer';
import { description } from '../../api/description';

/** The endpoints as an OpenAPI document. */
export const GET = endpoint(() => Promise.resolve(json(description())));
