import { createResponse } from 'better-sse';
import { subscribe } from '../../../../../server/events';
import { endpoint } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';

/** Interval of comments that keep the stream open, ms. */
const ALIVE = 15_000;

/** Changes in a project, as server-sent events. */
export const GET = endpoint(async (c) => {
  const project = await projectIn(c);
  return createResponse(c.request, { keepAlive: ALIVE, serializer: String }, (session) => {
    const deaf = subscribe({
      onEvent: (n) => {
        if (n.project === null || n.project === project) session.push(n.what);
      },
      onState: (there) => session.push(there ? 'hello' : 'away'),
    });
    session.once('disconnected', deaf);
    session.push('hello');
  });
});
