import { endpoint, id, json } from '../../../../api/answer';
import { projectView } from '../../../../api/project';

export const GET = endpoint(async (c) => json(await projectView(id(c, 'project', 'project'))));
