/**
 * Requests the Wall's views from the engine: visible tiles, then measurements, then all other
 * tiles.
 */
import { useEffect } from 'react';
import type { Balance, LookDocument } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import type { View } from '../../engine/protocol';
import { sized } from '../../domain/views';
import { bareLook } from '../../domain/bare-look';
import { STAGES, type Stage, traitView } from './stages';

/** What the Wall shows. */
export interface Showing {
  readonly stage: Stage;
  /** Height of tiles' pictures, lines. */
  readonly lines: number;
  /** Shows the balanced clip beside. */
  readonly twofold: boolean;
  readonly sight: readonly string[];
  readonly frameOf: (c: ClipView) => number;
  /** The look as the clip wears it; undefined while it loads. */
  readonly lookOf: (c: ClipView) => LookDocument | null | undefined;
  /** Balances that are proposed only. */
  readonly coming: ReadonlyMap<string, Balance | null>;
  readonly measured: boolean;
  /** A clip shown large at its own frame, for setting pins. */
  readonly pinning: { readonly clip: string; readonly frame: number } | null;
}

/** Requests the Wall's views. */
export function useTiles(engine: EngineClient, project: ProjectView, showing: Showing): void {
  const { stage, lines, twofold, sight, frameOf, lookOf, coming, measured, pinning } = showing;
  useEffect(() => {
    engine.clips(
      [...project.clips, ...project.plates].map((c) =>
        coming.has(c.id) ? { ...c, balance: coming.get(c.id)! } : c,
      ),
    );
    const [width, height] = sized(project, lines),
      [w, h] = sized(project, 135);
    const seen = new Set(sight);
    const shot = (c: ClipView, at: Stage) => ({
      clip: c.id,
      frame: frameOf(c),
      // Without its look a clip is shown at the same moment as under it.
      look: at === 'look' ? (lookOf(c) ?? null) : bareLook(lookOf(c), ['retime']),
      from: 270 as const,
      asShot: at === 'shot',
      later: !seen.has(c.id),
    });
    const clips = project.clips.filter((c) => lookOf(c) !== undefined);
    const tiles = clips.flatMap((c): View[] => [
      { ...shot(c, stage), id: `tile:${c.id}`, width, height },
      ...(twofold ? [{ ...shot(c, 'balanced'), id: `beside:${c.id}`, width, height }] : []),
    ]);
    const traits = measured
      ? clips.flatMap((c) =>
          STAGES.map(([at]): View => ({
            ...shot(c, at),
            later: false,
            id: traitView(at, c.id),
            width: w,
            height: h,
            traits: true,
          })),
        )
      : [];
    const large = project.clips.find((c) => c.id === pinning?.clip);
    const first = large
      ? [
          {
            ...shot(large, 'look'),
            id: 'pinning',
            frame: pinning!.frame,
            later: false,
            width,
            height,
          },
        ]
      : [];
    engine.request([...first, ...tiles, ...traits]);
  }, [engine, project, stage, lines, twofold, sight, frameOf, lookOf, coming, measured, pinning]);
}
