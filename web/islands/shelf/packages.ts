/** Look packages on the page: made with pictures of this project's clips. */
import type { LookDocument } from '../../../core';
import type { LookPackage, Thumbnail } from '../../../core/formats';
import type { ClipView, ProjectView } from '../../api/views';
import { EngineClient } from '../../engine/client';
import type { Pixels } from '../../engine/protocol';
import { restingFrame, sized } from '../bench/useViews';

const MOST_PICTURES = 3,
  LINES = 270,
  MEMORY = 128 * 2 ** 20;
/** A picture that takes longer (ms) is left out: the package is whole without. */
const PATIENCE = 20_000;

async function pngOf({ bitmap }: Pixels): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
}

/** Pictures of clips under a look. */
async function picturesOf(look: LookDocument, clips: readonly ClipView[], project: ProjectView): Promise<Thumbnail[]> {
  const engine = new EngineClient('bt709', MEMORY);
  try {
    engine.clips([...project.clips, ...project.plates]);
    const [width, height] = sized(project, LINES);
    const coming = clips.map(
      (c) =>
        new Promise<Thumbnail | null>((resolve) => {
          engine.on(`thumbnail:${c.id}`, (p) => void pngOf(p).then((png) => resolve({ name: c.name, png })));
          setTimeout(() => resolve(null), PATIENCE);
        }),
    );
    engine.request(clips.map((c) => ({ id: `thumbnail:${c.id}`, clip: c.id, frame: restingFrame(c, look), look, from: LINES, width, height })));
    return (await Promise.all(coming)).filter((t) => t !== null);
  } finally {
    engine.close();
  }
}

/** A version as a package, with pictures of the clips that wear it (or of the first there are). */
export async function packaged(look: LookDocument, lookId: string, version: number, project: ProjectView): Promise<LookPackage> {
  const wearing = project.clips.filter((c) => c.look?.lookId === lookId);
  const shown = [...wearing, ...project.clips.filter((c) => !wearing.includes(c))].slice(0, MOST_PICTURES);
  return { look, version, thumbnails: await picturesOf(look, shown, project) };
}
