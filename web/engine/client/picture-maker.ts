/**
 * The one engine that makes small pictures for all lists of a page, in the order in which they were
 * asked for. It starts with the first, and ends when none was wanted for a while.
 */
import type { ProjectView } from '../../data/views';
import type { View } from '../protocol';
import { EngineClient } from './client';

/** A small picture to be made. */
export interface Wanted extends Omit<View, 'id'> {
  /** Key of everything it depends on; a picture that two lists want is made once. */
  readonly name: string;
  readonly project: ProjectView;
}
interface Task {
  readonly view: View;
  readonly done: Set<(image: Blob) => void>;
  readonly off: () => void;
}

const MEMORY = 192 * 2 ** 20;
/** Time without wishes after which the engine ends, ms. */
const IDLE = 20_000;

/** A bitmap as a file. It is used up. */
async function asFile(bitmap: ImageBitmap): Promise<Blob> {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
  return canvas.convertToBlob({ type: 'image/webp', quality: 0.9 });
}

/** Makes pictures. `start` and `encode` are replaced by tests. */
export class PictureMaker {
  private engine: EngineClient | undefined;
  private readonly tasks = new Map<string, Task>();
  /** Projects whose clips were sent, by their ids. */
  private readonly told = new Map<string, ProjectView>();
  private asked = false;
  private idle: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly start = () => new EngineClient('bt709', MEMORY),
    private readonly encode = asFile,
  ) {}

  /** Asks for a picture; returns how to take the wish back. */
  make({ name, project, ...shot }: Wanted, done: (image: Blob) => void): () => void {
    clearTimeout(this.idle);
    const engine = (this.engine ??= this.start());
    this.tell(engine, project);
    let task = this.tasks.get(name);
    if (!task) {
      const off = engine.on(name, ({ bitmap }) => void this.made(name, bitmap));
      task = { view: { ...shot, id: name }, done: new Set(), off };
      this.tasks.set(name, task);
      this.askSoon();
    }
    task.done.add(done);
    return () => {
      task.done.delete(done);
      if (task.done.size > 0 || this.tasks.get(name) !== task) return;
      this.end(name);
      this.askSoon();
    };
  }

  /** Clips are known by their project: pins name footage of their own alone. */
  private tell(engine: EngineClient, project: ProjectView): void {
    if (this.told.get(project.id) === project) return;
    this.told.set(project.id, project);
    engine.clips([...project.clips, ...project.plates], project.id);
  }
  /** All wishes of one turn go out together. */
  private askSoon(): void {
    if (this.asked) return;
    this.asked = true;
    queueMicrotask(() => {
      this.asked = false;
      this.engine?.request([...this.tasks.values()].map((t) => t.view));
    });
  }
  private async made(name: string, bitmap: ImageBitmap): Promise<void> {
    const image = await this.encode(bitmap);
    const task = this.tasks.get(name);
    if (!task) return;
    this.end(name);
    task.done.forEach((f) => f(image));
  }
  private end(name: string): void {
    this.tasks.get(name)?.off();
    this.tasks.delete(name);
    if (this.tasks.size > 0) return;
    clearTimeout(this.idle);
    this.idle = setTimeout(() => {
      this.engine?.close();
      this.engine = undefined;
      this.told.clear();
    }, IDLE);
  }
}

let maker: PictureMaker | undefined;
/** The page's maker of small pictures. */
export const pictureMaker = (): PictureMaker => (maker ??= new PictureMaker());
