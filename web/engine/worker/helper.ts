/** A helper thread of the engine: reports that it runs, then takes bands until the page closes. */
import { helpWith } from '../../../core/engine';

self.onmessage = (e: MessageEvent<WebAssembly.Memory>) => {
  (self as unknown as Worker).postMessage('here');
  helpWith(e.data);
};
