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
async function picturesOf(look: LookDocument, clips: readonly ClipView[], project: ProjectView, lines: 270 | 540 = LINES): Promise<Thumbnail[]> {
  const engine = new EngineClient('bt709', MEMORY);
  try {
    engine.clips([...project.clips, ...project.plates]);
    const [width, height] = sized(project, lines);
    const coming = clips.map(
      (c) =>
        new Promise<Thumbnail | null>((resolve) => {
          engine.on(`thumbnail:${c.id}`, (p) => void pngOf(p).then((png) => resolve({ name: c.name, png })));
          setTimeout(() => resolve(null), PATIENCE);
        }),
    );
    engine.request(clips.map((c) => ({ id: `thumbnail:${c.id}`, clip: c.id, frame: restingFrame(c, look), look, from: lines, width, height })));
    return (await Promise.all(coming)).filter((t) => t !== null);
  } finally {
    engine.close();
  }
}

const CARD = { width: 1200, margin: 36, name: 44, line: 22 } as const;
/**
 * A version as a card: its picture on a clip that wears it (or the first there is), its name and its dials below. Throws
 * where the project has no clip to show it on.
 */
export async function drawnCard(look: LookDocument, lookId: string, version: number, project: ProjectView): Promise<Uint8Array> {
  const clip = project.clips.find((c) => c.look?.lookId === lookId) ?? project.clips[0];
  const [picture] = clip ? await picturesOf(look, [clip], project, 540) : [];
  if (!picture) throw new Error('a card is a picture of the look on a clip: bring a clip into the project first');
  const image = await createImageBitmap(new Blob([picture.png as BlobPart], { type: 'image/png' }));
  const high = Math.round((CARD.width * image.height) / image.width);
  const canvas = new OffscreenCanvas(CARD.width, high + 2 * CARD.margin + CARD.name + CARD.line);
  const c = canvas.getContext('2d')!;
  const face = getComputedStyle(document.body).fontFamily;
  c.fillStyle = '#161616';
  c.fillRect(0, 0, canvas.width, canvas.height);
  c.drawImage(image, 0, 0, CARD.width, high);
  c.textBaseline = 'top';
  c.fillStyle = '#ece7dd';
  c.font = `600 ${CARD.name * 0.8}px ${face}`;
  c.fillText(`${look.name}  v${version}`, CARD.margin, high + CARD.margin, CARD.width - 2 * CARD.margin);
  c.fillStyle = '#9a958b';
  c.font = `400 ${CARD.line * 0.9}px ${face}`;
  const dials = look.dials.map((d) => d.label).join(' · ');
  c.fillText(dials, CARD.margin, high + CARD.margin + CARD.name, CARD.width - 2 * CARD.margin);
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
}

/** A version as a package, with pictures of the clips that wear it (or of the first there are). */
export async function packaged(look: LookDocument, lookId: string, version: number, project: ProjectView): Promise<LookPackage> {
  const wearing = project.clips.filter((c) => c.look?.lookId === lookId);
  const shown = [...wearing, ...project.clips.filter((c) => !wearing.includes(c))].slice(0, MOST_PICTURES);
  return { look, version, thumbnails: await picturesOf(look, shown, project) };
}
