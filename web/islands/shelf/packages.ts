/** Look packages made on the page, with pictures of this project's clips. */
import type { LookDocument } from '../../../core';
import type { LookPackage, PackedPlate, Thumbnail } from '../../../core/formats';
import { call } from '../../data/http';
import type { ClipView, ProjectView } from '../../data/views';
import { EngineClient } from '../../engine/client/client';
import type { Pixels } from '../../engine/protocol';
import { restingFrame, sized } from '../../domain/views';
import { batchesIn } from '../../data/uploads';
import { editOf } from '../../data/clip-edits';

const MOST_PICTURES = 3,
  LINES = 270,
  MEMORY = 128 * 2 ** 20;
/** Time limit for a picture, ms; slow ones are left out. */
const TIMEOUT_MS = 20_000;
/** Most bytes of all plates in a package. */
const MOST_OF_PLATES = 48 * 2 ** 20;

async function pngOf({ bitmap }: Pixels): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
}

/** Pictures of clips under a look. */
async function picturesOf(
  look: LookDocument,
  clips: readonly ClipView[],
  project: ProjectView,
  lines: 270 | 540 = LINES,
): Promise<Thumbnail[]> {
  const engine = new EngineClient('bt709', MEMORY);
  try {
    engine.clips([...project.clips, ...project.plates]);
    const [width, height] = sized(project, lines);
    const coming = clips.map(
      (c) =>
        new Promise<Thumbnail | null>((resolve) => {
          engine.on(
            `thumbnail:${c.id}`,
            (p) => void pngOf(p).then((png) => resolve({ name: c.name, png })),
          );
          setTimeout(() => resolve(null), TIMEOUT_MS);
        }),
    );
    engine.request(
      clips.map((c) => ({
        id: `thumbnail:${c.id}`,
        clip: c.id,
        frame: restingFrame(c, look),
        look,
        from: lines,
        width,
        height,
      })),
    );
    return (await Promise.all(coming)).filter((t) => t !== null);
  } finally {
    engine.close();
  }
}

const CARD = { width: 1200, margin: 36, name: 44, line: 22 } as const;
/**
 * A version as a card: its picture on a clip that wears it (or the first clip), with name and dials
 * below. Throws if the project has no clip.
 */
export async function drawnCard(
  look: LookDocument,
  lookId: string,
  version: number,
  project: ProjectView,
): Promise<Uint8Array> {
  const clip = project.clips.find((c) => c.look?.lookId === lookId) ?? project.clips[0];
  const [picture] = clip ? await picturesOf(look, [clip], project, 540) : [];
  if (!picture)
    throw new Error(
      'a card is a picture of the look on a clip: bring a clip into the project first',
    );
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
  c.fillText(
    `${look.name}  v${version}`,
    CARD.margin,
    high + CARD.margin,
    CARD.width - 2 * CARD.margin,
  );
  c.fillStyle = '#9a958b';
  c.font = `400 ${CARD.line * 0.9}px ${face}`;
  const dials = look.dials.map((d) => d.label).join(' · ');
  c.fillText(dials, CARD.margin, high + CARD.margin + CARD.name, CARD.width - 2 * CARD.margin);
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
}

/** Footage that clips have set for a look's pins; clips that wear it come first. */
export function platesOf(
  look: LookDocument,
  lookId: string,
  { clips, plates }: ProjectView,
): { readonly pin: string; readonly plate: ClipView }[] {
  const inTurn = [...clips.filter((c) => c.look?.lookId === lookId), ...clips];
  return (look.pins ?? []).flatMap(({ key, kind }) => {
    if (kind !== 'footage') return [];
    const set = inTurn.flatMap((c) =>
      (c.pins[key] ?? []).flatMap((v) => ('hash' in v ? [v.hash] : [])),
    );
    const plate = [...plates, ...clips].find((c) => c.hash === set[0]);
    return plate ? [{ pin: key, plate }] : [];
  });
}
/** Files of plates. Throws what to do if one cannot be included. */
async function filesOf(wanted: ReturnType<typeof platesOf>): Promise<PackedPlate[]> {
  if (wanted.reduce((n, w) => n + w.plate.bytes, 0) > MOST_OF_PLATES)
    throw new Error(
      `its plates are larger than ${MOST_OF_PLATES / 2 ** 20} MiB together: export it without them, and send them beside it`,
    );
  return Promise.all(
    wanted.map(async ({ pin, plate }): Promise<PackedPlate> => {
      const answer = await fetch(`/api/footage/${plate.hash}/original`);
      if (!answer.ok)
        throw new Error(
          `${plate.name} is a folder of pictures or has gone: export the look without its plates`,
        );
      return {
        pin,
        name: `${plate.name}${answer.headers.get('x-ending') ?? ''}`,
        bytes: new Uint8Array(await answer.arrayBuffer()),
      };
    }),
  );
}

/**
 * Imports the plates of a package and sets them on clips that have none. Returns rejections as
 * text.
 */
export async function bringPlates(
  project: string,
  plates: readonly PackedPlate[],
): Promise<string[]> {
  const batches = plates.map((p) => ({
    name: p.name,
    files: [new File([p.bytes as BlobPart], p.name)],
  }));
  const refused = await batchesIn(project, batches, () => {}, 'plate');
  if (refused.length > 0) return refused;
  const nameOf = (p: PackedPlate) => p.name.replace(/\.[^.]+$/, '');
  for (const end = Date.now() + TIMEOUT_MS; ; await new Promise((r) => setTimeout(r, 400))) {
    const now = await call<ProjectView>('GET', `/api/projects/${project}`);
    const found = plates.map((p) => ({
      pin: p.pin,
      clip: [...now.plates, ...now.clips].find((c) => c.name === nameOf(p)),
    }));
    if (found.some((f) => !f.clip)) {
      if (Date.now() > end)
        return [
          `${plates.length === 1 ? 'its plate is' : 'its plates are'} still being brought in: set them on the Bench once they are there`,
        ];
      continue;
    }
    const brought = new Set(found.map((f) => f.clip!.id));
    const edits = [
      // Footage that was there as a clip becomes a plate too.
      ...found
        .filter((f) => f.clip!.role === 'clip')
        .map((f) => editOf(f.clip!, { role: 'plate' })),
      ...now.clips
        .filter((c) => !brought.has(c.id))
        .flatMap((c) => {
          const more = Object.fromEntries(
            found
              .filter((f) => !c.pins[f.pin])
              .map((f) => [f.pin, [{ hash: f.clip!.hash, start: 0, speed: 1 }]]),
          );
          return Object.keys(more).length > 0 ? [editOf(c, { pins: { ...c.pins, ...more } })] : [];
        }),
    ];
    await call('POST', `/api/projects/${project}/clips`, { clips: edits });
    return [];
  }
}

/**
 * A version as a package, with pictures of clips that wear it (or of the first clips), and with its
 * plates if requested.
 */
export async function packaged(
  look: LookDocument,
  lookId: string,
  version: number,
  project: ProjectView,
  withPlates = false,
): Promise<LookPackage> {
  const wearing = project.clips.filter((c) => c.look?.lookId === lookId);
  const shown = [...wearing, ...project.clips.filter((c) => !wearing.includes(c))].slice(
    0,
    MOST_PICTURES,
  );
  const plates = withPlates ? await filesOf(platesOf(look, lookId, project)) : [];
  return {
    look,
    version,
    thumbnails: await picturesOf(look, shown, project),
    ...(plates.length > 0 && { plates }),
  };
}
