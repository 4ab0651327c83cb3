/**
 * Small pictures of clips under looks. They are cached across visits; missing ones are made in the
 * background, in the requested order.
 */
import { useEffect, useMemo, useRef, useState } from 'react';
import { cueFrame, lengthOf, type LookDocument, reachedAt, underLook } from '../../core';
import type { ClipView, ProjectView } from '../data/views';
import { EngineClient } from '../engine/client/client';
import { cacheImage, cachedImage } from '../engine/client/image-cache';
import { restingFrame, sized } from '../domain/views';

/** A requested picture. */
export interface LookPicture {
  /** Id of the picture among those requested. */
  readonly id: string;
  readonly clip: ClipView;
  /** Null for the clip itself. */
  readonly look: LookDocument | null;
}

const LINES = 270,
  MEMORY = 192 * 2 ** 20;
/** Frames after a cue at which its effect is visible. */
const AFTER_CUE = 8;

/**
 * The frame that shows best what a look does to a clip: a little after its first cue, else the
 * middle.
 */
export function tellingFrame(look: LookDocument | null, clip: ClipView): number {
  const c = underLook(clip, look);
  if (!look?.pins?.some((p) => p.kind === 'cue')) return restingFrame(clip, look);
  return Math.min(lengthOf(c) - 1, reachedAt(c, cueFrame(look, c)) + AFTER_CUE);
}

/** Key of everything that the picture depends on, for this version of the page. */
function nameOf({ clip: c, look }: LookPicture, project: ProjectView): string {
  const { hash, encoding, sampling, fit, reframe, inOut, cuts, retime, balance, pins, motion } = c;
  const shown = JSON.stringify([
    look,
    ...[
      hash,
      encoding,
      sampling,
      fit,
      reframe,
      inOut,
      cuts,
      retime,
      balance,
      pins,
      c.statistics !== null,
      motion?.state === 'done',
    ],
    ...[project.width, project.height, LINES],
  ]);
  // FNV-1a over two halves; not cryptographic.
  let [a, b] = [0x811c9dc5, 0x1000193];
  for (let i = 0; i < shown.length; i++) {
    a = Math.imul(a ^ shown.charCodeAt(i), 0x01000193);
    b = Math.imul(b ^ shown.charCodeAt(shown.length - 1 - i), 0x01000193);
  }
  return `${(a >>> 0).toString(36)}-${(b >>> 0).toString(36)}-${shown.length}`;
}

/** URLs of the pictures by their ids, as they become available. */
export function useLookPictures(
  project: ProjectView,
  wanted: readonly LookPicture[],
): ReadonlyMap<string, string> {
  /** Created when there is something to compute. */
  const making = useRef<EngineClient>(undefined);
  useEffect(() => () => making.current?.close(), []);
  /** URLs by key while the page is open; empty while the cache is asked, null if it has none. */
  const known = useRef(new Map<string, string | null>());
  const [, drawn] = useState(0);
  const named = useMemo(
    () => wanted.map((w) => ({ ...w, name: nameOf(w, project) })),
    [wanted, project],
  );

  useEffect(() => {
    let on = true;
    const stops: (() => void)[] = [];
    const have = (name: string, image: Blob | null) => {
      known.current.set(name, image && URL.createObjectURL(image));
      if (on) drawn((n) => n + 1);
    };
    const make = () => {
      const missing = named.filter(
        (p, i) =>
          known.current.get(p.name) === null && named.findIndex((q) => q.name === p.name) === i,
      );
      if (!on || (missing.length === 0 && !making.current)) return;
      const engine = (making.current ??= new EngineClient('bt709', MEMORY));
      engine.clips([...project.clips, ...project.plates]);
      const [width, height] = sized(project, LINES);
      for (const p of missing)
        stops.push(
          engine.on(p.name, ({ bitmap }) => {
            const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
            canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
            void canvas.convertToBlob({ type: 'image/webp', quality: 0.9 }).then((image) => {
              if (known.current.get(p.name)) return;
              have(p.name, image);
              void cacheImage(p.name, image);
            });
          }),
        );
      engine.request(
        missing.map(({ name, clip, look }) => ({
          id: name,
          clip: clip.id,
          frame: tellingFrame(look, clip),
          look,
          from: LINES,
          width,
          height,
        })),
      );
    };
    const unasked = named.filter((p) => !known.current.has(p.name));
    void Promise.all(unasked.map(async ({ name }) => have(name, await cachedImage(name)))).then(
      make,
    );
    return () => {
      on = false;
      stops.forEach((stop) => stop());
    };
  }, [project, named]);
  useEffect(() => () => known.current.forEach((url) => url && URL.revokeObjectURL(url)), []);
  return new Map(
    named.flatMap(({ id, name }) =>
      known.current.get(name) ? [[id, known.current.get(name)!]] : [],
    ),
  );
}
