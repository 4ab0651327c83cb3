/**
 * Finished pictures by cache key: the latest in memory, baked ones as lossless files in the
 * browser's private file system, where they survive a reload. The key covers everything they depend
 * on, so none is ever out of date. The oldest are removed when space is needed.
 */

/** Storage of baked pictures. */
export interface BakedFolder {
  /** Bytes of each file, oldest first. */
  list(): Promise<ReadonlyMap<string, number>>;
  read(name: string): Promise<Blob>;
  write(name: string, file: Blob): Promise<void>;
  remove(name: string): Promise<void>;
}
/** Encodes pictures as files and back without loss. */
export interface Packing {
  pack(image: ImageData): Promise<Blob>;
  unpack(file: Blob): Promise<ImageData>;
}

const MEMORY_BYTES = 256 * 2 ** 20;
const MOST_BAKED_BYTES = 2 * 2 ** 30;
/** Limit for baked pictures in bytes: 2 GiB, or half of the browser's quota if that is less. */
export async function roomForBaked(): Promise<number> {
  const granted = await navigator.storage?.estimate?.().catch(() => undefined);
  return Math.min(MOST_BAKED_BYTES, (granted?.quota ?? Infinity) / 2);
}

/** File name for a key of any length. */
async function nameOf(key: string): Promise<string> {
  const hash = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(key));
  return Array.from(new Uint8Array(hash), (b) => b.toString(16).padStart(2, '0')).join('');
}

/** The store. */
export class PictureStore {
  private readonly memory = new Map<string, ImageData>();
  private inMemory = 0;
  private readonly names = new Map<string, string>();
  private readonly baked = new Map<string, number>();
  private bytes = 0;
  private opened: Promise<void> | undefined;

  /** Without a `folder` nothing can be baked, but the latest pictures are kept in memory. */
  constructor(
    private readonly folder: BakedFolder | undefined,
    private readonly packing: Packing,
    private readonly most = MOST_BAKED_BYTES,
    private readonly memoryBytes = MEMORY_BYTES,
  ) {}

  get canBake(): boolean {
    return this.folder !== undefined;
  }
  /** Size and number of all baked pictures. */
  async total(): Promise<{ bytes: number; files: number }> {
    await this.open();
    return { bytes: this.bytes, files: this.baked.size };
  }

  /** Whether a picture is available, and where. */
  async state(key: string): Promise<'baked' | 'kept' | undefined> {
    await this.open();
    if (this.baked.has(await this.name(key))) return 'baked';
    return this.memory.has(key) ? 'kept' : undefined;
  }
  async find(key: string): Promise<ImageData | undefined> {
    const kept = this.memory.get(key);
    if (kept) {
      this.memory.delete(key);
      this.memory.set(key, kept);
      return kept;
    }
    await this.open();
    const name = await this.name(key);
    if (!this.baked.has(name)) return undefined;
    try {
      const image = await this.packing.unpack(await this.folder!.read(name));
      this.keep(key, image);
      return image;
    } catch {
      // A file that is missing or broken is computed again.
      await this.drop(name);
      return undefined;
    }
  }
  /** A picture from a file made elsewhere. */
  taken(file: Blob): Promise<ImageData> {
    return this.packing.unpack(file);
  }
  /** Keeps a picture in memory; the least recently used are dropped. */
  keep(key: string, image: ImageData): void {
    if (this.memory.has(key)) return;
    this.memory.set(key, image);
    this.inMemory += image.data.byteLength;
    for (const [oldest, { data }] of this.memory) {
      if (this.inMemory <= this.memoryBytes || oldest === key) break;
      this.memory.delete(oldest);
      this.inMemory -= data.byteLength;
    }
  }
  /** Keeps a picture as a file; returns its bytes. Throws if the browser grants no space. */
  async bake(key: string, image: ImageData): Promise<number> {
    await this.open();
    const name = await this.name(key);
    const file = await this.packing.pack(image);
    for (const [oldest] of this.baked) {
      if (this.bytes + file.size <= this.most) break;
      await this.drop(oldest);
    }
    await this.folder!.write(name, file);
    this.baked.set(name, file.size);
    this.bytes += file.size;
    return file.size;
  }
  /** Removes all baked pictures. */
  async clear(): Promise<void> {
    await this.open();
    // None is found from now on; files are removed one by one.
    const names = [...this.baked.keys()];
    this.baked.clear();
    this.bytes = 0;
    for (const name of names) await this.folder!.remove(name).catch(() => {});
  }

  private open(): Promise<void> {
    return (this.opened ??= (async () => {
      for (const [name, size] of (await this.folder?.list()) ?? []) {
        this.baked.set(name, size);
        this.bytes += size;
      }
    })());
  }
  private async drop(name: string): Promise<void> {
    this.bytes -= this.baked.get(name) ?? 0;
    this.baked.delete(name);
    await this.folder!.remove(name).catch(() => {});
  }
  private async name(key: string): Promise<string> {
    const known = this.names.get(key);
    if (known) return known;
    const made = await nameOf(key);
    this.names.set(key, made);
    return made;
  }
}

/**
 * The browser's private folder. Pictures of other builds are removed, because their kernels may
 * compute other bits for the same key. Undefined if the browser has no such folder.
 */
export async function privateFolder(build: string): Promise<BakedFolder | undefined> {
  if (!navigator.storage?.getDirectory) return undefined;
  try {
    const root = await navigator.storage.getDirectory();
    const own = `baked-${build}`;
    const names: string[] = [];
    for await (const name of root.keys()) names.push(name);
    for (const name of names)
      if (name.startsWith('baked-') && name !== own)
        await root.removeEntry(name, { recursive: true });
    return inDirectory(await root.getDirectoryHandle(own, { create: true }));
  } catch {
    return undefined;
  }
}

const inDirectory = (folder: FileSystemDirectoryHandle): BakedFolder => ({
  async list() {
    const files: File[] = [];
    for await (const entry of folder.values())
      if (entry.kind === 'file') files.push(await (entry as FileSystemFileHandle).getFile());
    files.sort((a, b) => a.lastModified - b.lastModified);
    // Writes replace whole files, so an interrupted one (the page was closed) is empty.
    return new Map(files.filter((f) => f.size > 0).map((f) => [f.name, f.size]));
  },
  read: async (name) => (await folder.getFileHandle(name)).getFile(),
  async write(name, file) {
    const to = await (await folder.getFileHandle(name, { create: true })).createWritable();
    await to.write(file);
    await to.close();
  },
  remove: (name) => folder.removeEntry(name),
});

/** PNG by the browser: lossless; without coverage nothing is premultiplied. */
export function pngPacking(): Packing {
  const canvas = new OffscreenCanvas(1, 1);
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  const fit = (width: number, height: number) => {
    if (canvas.width !== width) canvas.width = width;
    if (canvas.height !== height) canvas.height = height;
  };
  return {
    async pack(image) {
      fit(image.width, image.height);
      context.putImageData(image, 0, 0);
      return canvas.convertToBlob({ type: 'image/png' });
    },
    async unpack(file) {
      const bitmap = await createImageBitmap(file, {
        colorSpaceConversion: 'none',
        premultiplyAlpha: 'none',
      });
      fit(bitmap.width, bitmap.height);
      context.drawImage(bitmap, 0, 0);
      bitmap.close();
      return context.getImageData(0, 0, canvas.width, canvas.height);
    },
  };
}
