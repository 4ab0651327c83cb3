/**
 * Small pictures of clips under looks. They are cached across visits; missing ones are made in the
 * background, in the requested order.
 */
import { useEffect, useMemo, useRef, useState } from 'react';
import {
  cueFrame,
  footagePins,
  lengthOf,
  type LookDocument,
  pinned,
  reachedAt,
  subjectKey,
  underLook,
} from '../../core';
import { assetsMade, trackMade } from '../domain/assets';
import type { ClipView, ProjectView } from '../data/views';
import { cacheImage, cachedImage } from '../engine/client/image-cache';
import { pictureMaker } from '../engine/client/picture-maker';
import { restingFrame, sized } from '../domain/views';

/** A requested picture. */
export interface LookPicture {
  /** Id of the picture among those requested. */
  readonly id: string;
  readonly clip: ClipView;
  /** Null for the clip itself. */
  readonly look: LookDocument | null;
}

const LINES = 270;
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

/** This build of the page: its script's name changes with its contents. */
const BUILD = import.meta.url;
/** Key of everything that the picture depends on, for this build of the page. */
export function pictureName({ clip, look }: LookPicture, project: ProjectView): string {
  const other = (hash: string) => pinned(hash, [...project.clips, ...project.plates]);
  const measured = footagePins(look, clip.pins).map(
    ([, pin]) => (other(pin.hash)?.statistics ?? null) !== null,
  );
  return subjectKey({
    hash: clip.hash,
    decisions: clip,
    cuts: clip.cuts,
    look,
    asks: look,
    footage: (hash) => {
      const found = other(hash);
      return found && { ...found, measured: found.statistics?.plate };
    },
    tracks: (trace) => trackMade(clip, trace),
    method: [
      ...[BUILD, project.width, project.height, LINES],
      ...[clip.statistics !== null, assetsMade(clip), measured],
      clip.role === 'plate' ? (clip.statistics?.plate ?? null) : null,
    ],
  });
}

/** URLs of the pictures by their ids, as they become available. */
export function useLookPictures(
  project: ProjectView,
  wanted: readonly LookPicture[],
): ReadonlyMap<string, string> {
  /** URLs by key while the page is open; empty while the cache is asked, null if it has none. */
  const known = useRef(new Map<string, string | null>());
  const [, drawn] = useState(0);
  const named = useMemo(
    () => wanted.map((w) => ({ ...w, name: pictureName(w, project) })),
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
      if (!on) return;
      const maker = pictureMaker(),
        [width, height] = sized(project, LINES);
      for (const { name, clip, look } of missing)
        stops.push(
          maker.make(
            {
              ...{ name, project, clip: clip.id, look, from: LINES, width, height },
              frame: tellingFrame(look, clip),
            },
            (image) => {
              have(name, image);
              void cacheImage(name, image);
            },
          ),
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
  const shown = new Map(
    named.flatMap(({ id, name }) =>
      known.current.get(name) ? [[id, known.current.get(name)!]] : [],
    ),
  );
  // The same map while nothing changes, so that what shows it is not drawn anew.
  const last = useRef(shown);
  const isSame =
    shown.size === last.current.size &&
    [...shown].every(([id, url]) => last.current.get(id) === url);
  if (!isSame) last.current = shown;
  return last.current;
}
