/** Comparison on the Bench: what *before* is, and how it is shown. */
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { withTrims } from '../../../core';
import type { ClipView, LookView, ReferenceView } from '../../data/views';
import type { Shot } from '../../engine/protocol';
import { versionQuery } from '../../data/queries';

/** Ways to show *before*. */
export type Mode = 'off' | 'seam' | 'beside' | 'difference';
/** Gains of the difference. */
export const GAINS = [1, 4, 16] as const;

/** The clip as shot or balanced, a look's version by id, or a kept reference by id. */
export type Before =
  | { readonly kind: 'shot' | 'balanced' }
  | { readonly kind: 'version'; readonly id: string }
  | { readonly kind: 'reference'; readonly id: string };
const AS_SHOT: Before = { kind: 'shot' };
/** *Before* as a string, for storage. */
export const beforeText = (b: Before): string => ('id' in b ? `${b.kind}:${b.id}` : b.kind);
/** The inverse of `beforeText`. */
export function beforeFrom(text: string): Before {
  const [kind, id] = text.split(':');
  if (kind === 'balanced') return { kind };
  return id && (kind === 'version' || kind === 'reference') ? { kind, id } : AS_SHOT;
}

/** The shot shown as *before*: a frame of a clip (default: the hero's) under a look. */
export type BeforeShot = Pick<Shot, 'look' | 'asShot'> & Partial<Pick<Shot, 'clip' | 'frame'>>;

/** State of the comparison. */
export interface Comparison {
  readonly mode: Mode;
  /** Whether the seam is vertical. */
  readonly upright: boolean;
  readonly gain: number;
  readonly marks: boolean;
  readonly before: Before;
  /** Name of what *before* is. */
  readonly name: string;
  readonly shot: BeforeShot;
  readonly set: (
    c: Partial<Pick<Comparison, 'mode' | 'upright' | 'gain' | 'marks' | 'before'>>,
  ) => void;
  /** Switches a mode on, or off if it was on. */
  readonly toggle: (mode: Mode) => void;
}

/** The comparison's state, with what *before* shows. */
export function useComparison(
  looks: readonly LookView[],
  references: readonly ReferenceView[],
  clips: readonly ClipView[],
  hero: ClipView,
): Comparison {
  const [state, setState] = useState<
    Pick<Comparison, 'mode' | 'upright' | 'gain' | 'marks' | 'before'>
  >({
    mode: 'off',
    upright: true,
    gain: 4,
    marks: false,
    before: AS_SHOT,
  });
  const { before } = state;
  const version = useQuery({
    ...versionQuery(before.kind === 'version' ? before.id : ''),
    enabled: before.kind === 'version',
  });
  const shown = useMemo((): { name: string; shot: BeforeShot } => {
    const asShot = { name: 'as shot', shot: { look: null, asShot: true } };
    if (before.kind === 'shot') return asShot;
    if (before.kind === 'balanced') return { name: 'balanced', shot: { look: null } };
    if (before.kind === 'version') {
      const look = looks.find((l) => l.versions.some((v) => v.id === before.id));
      const number = look?.versions.find((v) => v.id === before.id)?.number;
      return look && version.data
        ? {
            name: `${look.name} v${number}`,
            shot: { look: withTrims(version.data.document, hero.trims[look.id]) },
          }
        : asShot;
    }
    const kept =
      before.kind === 'reference' ? references.find((r) => r.id === before.id) : undefined;
    if (!kept?.clipId || !clips.some((c) => c.id === kept.clipId)) return asShot;
    return { name: kept.name, shot: { look: kept.document, clip: kept.clipId, frame: kept.frame } };
  }, [before, looks, references, clips, hero, version.data]);
  const set: Comparison['set'] = (c) => setState((s) => ({ ...s, ...c }));
  return {
    ...state,
    ...shown,
    set,
    toggle: (mode) => setState((s) => ({ ...s, mode: s.mode === mode ? 'off' : mode })),
  };
}
