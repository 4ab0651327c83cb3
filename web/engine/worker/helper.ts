/** A helper thread of the engine: says that it is there, then takes bands until the page goes. */
import { helpWith } from '../../../core/engine';

self.onmessage = (e: MessageEvent<WebAssembly.Memory>) => {
  (self as unknown as Worker).postMessage('here');
  helpWith(e.data);
};
