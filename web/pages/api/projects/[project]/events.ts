import { hear } from '../../../../../server/events';
import { endpoint } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';

/** What changed in a project, as server-sent events. */
export const GET = endpoint(async (c) => {
  const project = await projectIn(c);
  const encoder = new TextEncoder();
  let quit = (): void => {};
  const stream = new ReadableStream<Uint8Array>({
    start(out) {
      const say = (text: string): void => {
        try {
          out.enqueue(encoder.encode(text));
        } catch {
          quit();
        }
      };
      const deaf = hear({
        onNews: (n) => {
          if (n.project === project) say(`data: ${n.what}\n\n`);
        },
        onState: (there) => say(`data: ${there ? 'hello' : 'away'}\n\n`),
      });
      const alive = setInterval(() => say(': alive\n\n'), 15_000);
      quit = () => {
        clearInterval(alive);
        deaf();
      };
      c.request.signal.addEventListener('abort', quit);
      say('data: hello\n\n');
    },
    cancel() {
      quit();
    },
  });
  return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' } });
});
