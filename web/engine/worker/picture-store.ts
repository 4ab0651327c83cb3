/**
 * Finished pictures by what they were made from: the latest in memory, baked ones as lossless files
 * in the browser's private folder, where they are found again after a reload. What they depend on
 * is in their key, so none is ever out of date; one that nobody asks for any more goes when its
 * room is wanted.
 */

/** Where baked pictures lie. */
export interface BakedFolder {
  /** Bytes of each file, the oldest first. */
  list(): Promise<ReadonlyMap<string, number>>;
  read(name: string): Promise<Blob>;
  write(name: string, file: Blob): Promise<void>;
  remove(name: string): Promise<void>;
}
/** How pictures become files and come back, the same bit for bit. */
export interface Packing {
  pack(image: ImageData): Promise<Blob>;
  unpack(file: Blob): Promise<ImageData>;
}

const MEMORY_BYTES = 256 * 2 ** 20;
const MOST_BAKED_BYTES = 2 * 2 ** 30;
/**
 * Room for baked pictures (bytes): 2 GiB, or half of what the browser grants where that is less.
 */
export async function roomForBaked(): Promise<number> {
  const granted = await navigator.storage?.estimate?.().catch(() => undefined);
  return Math.min(MOST_BAKED_BYTES, (granted?.quota ?? Infinity) / 2);
}

/** A file's name for a key of any length. */
async function nameOf(key: string): Promise<string> {
  const hash = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(key));
  return Array.from(new Uint8Array(hash), (b) => b.toString(16).padStart(2, '0')).join('');
}

export class PictureStore {
  private readonly memory = new Map<string, ImageData>();
  private inMemory = 0;
  private readonly names = new Map<string, string>();
  private readonly baked = new Map<string, number>();
  private bytes = 0;
  private opened: Promise<void> | undefined;

  /**
   * `folder` is undefined where the browser has none: then nothing can be baked, and the latest are
   * kept all the same.
   */
  constructor(
    private readonly folder: BakedFolder | undefined,
    private readonly packing: Packing,
    private readonly most = MOST_BAKED_BYTES,
    private readonly memoryBytes = MEMORY_BYTES,
  ) {}

  get canBake(): boolean {
    return this.folder !== undefined;
  }
  /** What all baked pictures take, and how many they are. */
  async total(): Promise<{ bytes: number; files: number }> {
    await this.open();
    return { bytes: this.bytes, files: this.baked.size };
  }

  /** Whether a picture is at hand, and how. */
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
      // A file that was taken away or broken by others only costs its being computed again.
      await this.drop(name);
      return undefined;
    }
  }
  /** A picture out of a file that was made elsewhere. */
  taken(file: Blob): Promise<ImageData> {
    return this.packing.unpack(file);
  }
  /** Keeps a picture in memory, in place of those that were not asked for longest. */
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
  /** Keeps a picture as a file; returns its bytes. Throws when the browser grants no room. */
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
  /** Takes all baked pictures away. */
  async clear(): Promise<void> {
    await this.open();
    // None of them is found any more from now on; their files go one by one.
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
 * The browser's private folder. Pictures of another build of the application are taken away: its
 * kernels may differ in bits where keys do not. Undefined where the browser has no such folder.
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
    // One that was cut short (the page was closed in the middle of it) is empty: writing swaps
    // whole files.
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

/** PNG by the browser: lossless, and without coverage nothing is multiplied on the way. */
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
