/** Renders views: by simd over threads, or by WebGL2 on a GPU. */
import { packedForPage, type ImageNode } from '../../../core';
import { type Computer, Engine, GlslEngine, Memory, type Stats } from '../../../core/engine';

/** Which checkpoints to keep: all, or those with these keys. */
export type Keeping = true | ReadonlySet<string>;

/** A renderer of views. */
export interface ViewRenderer {
  readonly backEnd: 'simd' | 'glsl';
  readonly threads: number;
  readonly computer: Pick<Computer<unknown>, 'compute' | 'planes'>;
  readonly tally: Stats;
  /** Computes three planes of code values as the latest picture of a view. Throws `Cancelled`. */
  draw(view: string, codes: ImageNode, keeping: Keeping, stop: () => boolean): Promise<ImageBitmap>;
  /** Shows a finished picture as the latest of a view. */
  put(view: string, image: ImageData): ImageBitmap;
  /** A copy of the latest picture of a view. */
  pixelsOf(view: string): Promise<ImageData | undefined>;
  /** The latest picture of a view again. */
  again(view: string): Promise<ImageBitmap | undefined>;
  /** Prepares memory while idle; false when nothing is left. */
  prepare(): boolean;
  close(): void;
}

/** Longest wait for a helper to start, ms. */
const HELPER_TIME = 1500;
/**
 * Resolves with whether the helper runs. Threads must be started before any of them waits for
 * another.
 */
const helper = (memory: WebAssembly.Memory): Promise<boolean> =>
  new Promise((resolve) => {
    const thread = new Worker(new URL('./helper.ts', import.meta.url), { type: 'module' });
    const timer = setTimeout(() => resolve(false), HELPER_TIME);
    const ends = (runs: boolean) => () => {
      clearTimeout(timer);
      resolve(runs);
    };
    thread.onmessage = ends(true);
    thread.onerror = ends(false);
    thread.onmessageerror = ends(false);
    thread.postMessage(memory);
  });

class SimdScreen implements ViewRenderer {
  readonly backEnd = 'simd';
  /** The latest picture of each view; its memory is reused. */
  private readonly latest = new Map<string, ImageData>();
  private readonly canvas = new OffscreenCanvas(1, 1);
  /** Without alpha, so nothing is premultiplied on the way to the page. */
  private readonly context = this.canvas.getContext('2d', { alpha: false })!;
  constructor(
    readonly computer: Engine,
    readonly threads: number,
  ) {}
  get tally(): Stats {
    return this.computer.tally;
  }
  async draw(
    view: string,
    codes: ImageNode,
    keepCheckpoints: Keeping,
    stop: () => boolean,
  ): Promise<ImageBitmap> {
    const { computer } = this;
    const image = computer.compute(packedForPage(codes), { keepCheckpoints, stop });
    let shown = this.latest.get(view);
    if (shown?.width !== image.width || shown.height !== image.height) {
      shown = new ImageData(image.width, image.height);
      this.latest.set(view, shown);
    }
    for (let y = 0; y < image.height; y++)
      shown.data.set(
        new Uint8Array(
          computer.memory.wasm.buffer,
          image.address + y * image.stride,
          image.width * 4,
        ),
        y * image.width * 4,
      );
    return this.bitmap(shown);
  }
  put(view: string, image: ImageData): ImageBitmap {
    const shown = this.latest.get(view);
    if (shown?.width === image.width && shown.height === image.height) shown.data.set(image.data);
    else this.latest.set(view, new ImageData(image.data.slice(), image.width, image.height));
    return this.bitmap(image);
  }
  async pixelsOf(view: string): Promise<ImageData | undefined> {
    const shown = this.latest.get(view);
    return shown && new ImageData(shown.data.slice(), shown.width, shown.height);
  }
  async again(view: string): Promise<ImageBitmap | undefined> {
    const shown = this.latest.get(view);
    return shown && this.bitmap(shown);
  }
  private bitmap(shown: ImageData): ImageBitmap {
    const { canvas, context } = this;
    if (canvas.width !== shown.width) canvas.width = shown.width;
    if (canvas.height !== shown.height) canvas.height = shown.height;
    context.putImageData(shown, 0, 0);
    return canvas.transferToImageBitmap();
  }
  prepare(): boolean {
    return this.computer.memory.warm(2 ** 20);
  }
  close(): void {
    this.computer.close();
  }
}

class GlslScreen implements ViewRenderer {
  readonly backEnd = 'glsl';
  readonly threads = 0;
  private readonly latest = new Map<string, ImageNode | ImageData>();
  /** For finished pictures, and for reading back. */
  private readonly flat = new OffscreenCanvas(1, 1);
  private readonly context = this.flat.getContext('2d', {
    alpha: false,
    willReadFrequently: true,
  })!;
  constructor(
    private readonly canvas: OffscreenCanvas,
    readonly computer: GlslEngine,
  ) {}
  get tally(): Stats {
    return this.computer.tally;
  }
  async draw(
    view: string,
    codes: ImageNode,
    keepCheckpoints: Keeping,
    stop: () => boolean,
  ): Promise<ImageBitmap> {
    const image = this.computer.compute(codes, { keepCheckpoints, stop });
    this.canvas.width = image.width;
    this.canvas.height = image.height;
    this.computer.present(image);
    this.latest.set(view, codes);
    return this.canvas.transferToImageBitmap();
  }
  put(view: string, image: ImageData): ImageBitmap {
    this.latest.set(view, image);
    this.flat.width = image.width;
    this.flat.height = image.height;
    this.context.putImageData(image, 0, 0);
    return this.flat.transferToImageBitmap();
  }
  async pixelsOf(view: string): Promise<ImageData | undefined> {
    const bitmap = await this.again(view);
    if (!bitmap) return undefined;
    this.flat.width = bitmap.width;
    this.flat.height = bitmap.height;
    this.context.drawImage(bitmap, 0, 0);
    bitmap.close();
    return this.context.getImageData(0, 0, this.flat.width, this.flat.height);
  }
  async again(view: string): Promise<ImageBitmap | undefined> {
    const shown = this.latest.get(view);
    if (!shown) return undefined;
    return shown instanceof ImageData
      ? this.put(view, shown)
      : this.draw(view, shown, true, () => false);
  }
  prepare(): boolean {
    return false;
  }
  close(): void {
    this.computer.close();
  }
}

/** A renderer by simd. `bytes`: memory limit. */
export async function simdScreen(bytes: number): Promise<ViewRenderer> {
  const memory = memoryOf(bytes);
  const threads = self.crossOriginIsolated
    ? Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2))
    : 1;
  // Helpers that do not start are done without.
  const started = await Promise.all(Array.from({ length: threads - 1 }, () => helper(memory.wasm)));
  const helpers = started.filter(Boolean).length;
  return new SimdScreen(new Engine({ limit: bytes, helpers, memory }), helpers + 1);
}
/** Least memory of an engine, bytes. */
const LEAST_MEMORY = 96 * 2 ** 20;
/** Memory of up to `bytes`: half as much, and again, where the browser refuses it. */
function memoryOf(bytes: number): Memory {
  try {
    return new Memory(bytes);
  } catch (e) {
    if (bytes / 2 < LEAST_MEMORY) throw e;
    return memoryOf(bytes / 2);
  }
}

/** Names of software renderers; simd is faster than those. */
const SOFTWARE = /swiftshader|llvmpipe|softpipe|software|basic render/i;

/**
 * A renderer by WebGL2 with float textures; with `real`, only on a GPU. Returns the reason if there
 * is none.
 */
export function glslScreen(bytes: number, real: boolean): ViewRenderer | string {
  const canvas = new OffscreenCanvas(16, 16);
  const gl = canvas.getContext('webgl2', {
    alpha: false,
    antialias: false,
    depth: false,
    powerPreference: 'high-performance',
  });
  if (!gl) return 'this browser has no WebGL2';
  const names = gl.getExtension('WEBGL_debug_renderer_info');
  const renderer = String(gl.getParameter(names ? names.UNMASKED_RENDERER_WEBGL : gl.RENDERER));
  if (real && SOFTWARE.test(renderer)) return 'there is no graphics processor';
  try {
    return new GlslScreen(canvas, new GlslEngine(gl, bytes));
  } catch (e) {
    return (e as Error).message;
  }
}
