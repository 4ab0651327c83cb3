/** A helper thread of the engine: takes bands until the page goes. */
import { helpWith } from '../../core/engine/pool';

self.onmessage = (e: MessageEvent<WebAssembly.Memory>) => helpWith(e.data);
