/** The sheet of trials: which dials or parameters vary, their ranges, and the resulting looks. */
import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { edit, type LookDocument, stepOf, withTrims } from '../../../core';
import type { BenchStore } from './store';

/** A number of a look that can be varied. */
export interface Target {
  readonly id: string;
  readonly group: string;
  readonly label: string;
  readonly unit: string;
  /** Initial range, and the limits for typing. */
  readonly soft: readonly [number, number];
  readonly least: number;
  readonly most: number;
  /** Key of the dial, if it is one. */
  readonly dial: string | null;
  readonly set: (look: LookDocument, value: number) => LookDocument;
}

/** Number dials, then number parameters without a dial. */
export function targetsOf(look: LookDocument): Target[] {
  const dials = look.dials.flatMap((d): Target[] =>
    d.kind === 'number'
      ? [
          {
            id: `dial:${d.key}`,
            group: 'dials',
            label: d.label,
            unit: d.unit ?? '',
            soft: [d.min!, d.max!],
            least: d.min!,
            most: d.max!,
            dial: d.key,
            set: (l, v) => edit.setDial(l, d.key, v),
          },
        ]
      : [],
  );
  const parameters = [...look.layers].reverse().flatMap((layer) =>
    layer.steps.flatMap((use) =>
      stepOf(use.step)!.parameters.flatMap((p): Target[] => {
        const setting = use.parameters[p.id];
        if (p.kind !== 'number' || (setting && 'dial' in setting)) return [];
        return [
          {
            id: `${layer.key}/${use.key}/${p.id}`,
            group: layer.name,
            label: `${stepOf(use.step)!.label}: ${p.label.toLowerCase()}`,
            unit: p.unit === 'encoded' ? '' : p.unit,
            soft: p.soft ?? [p.min, p.max],
            least: p.min,
            most: p.max,
            dial: null,
            set: (l, v) => edit.setConstant(l, layer.key, use.key, p.id, v),
          },
        ];
      }),
    ),
  );
  return [...dials, ...parameters];
}

/** A range of one target. */
export interface Axis {
  readonly target: string;
  readonly from: number;
  readonly to: number;
}
/** A value of a target to be applied. */
export interface Taken {
  readonly target: Target;
  readonly value: number;
}
/** A tile of the sheet. */
export interface Tile {
  readonly look: LookDocument;
  readonly sets: readonly Taken[];
  readonly words: string;
  /** The values alone, for sheets with two targets. */
  readonly short: string;
}
/** State of the sheet. */
export interface Sheet {
  readonly open: boolean;
  readonly toggle: () => void;
  readonly targets: readonly Target[];
  readonly axes: readonly [Axis, Axis | null];
  readonly setAxis: (i: 0 | 1, target: string, range?: Partial<Pick<Axis, 'from' | 'to'>>) => void;
  readonly columns: number;
  readonly tiles: readonly Tile[];
  readonly looks: readonly LookDocument[];
}

const ALONE = 9,
  ACROSS = 4;
/** `count` values across the range, with three significant digits. */
export function valuesOf({ from, to }: Axis, count: number): number[] {
  const digits = Math.max(0, 3 - Math.ceil(Math.log10(Math.max(1e-6, Math.abs(to - from)))));
  return Array.from({ length: count }, (_, i) =>
    Number((from + ((to - from) * i) / (count - 1)).toFixed(digits)),
  );
}

const NONE: readonly Tile[] = [];

/**
 * The look with a clip's trims: the current one if `live`, else without the latest moves of dials.
 */
export function useTrimmedLook(store: BenchStore, clip: string, live: boolean): LookDocument {
  const look = useStore(store, (s) => (live ? s.look : s.still)),
    trims = useStore(store, (s) => (live ? s.trims[clip] : undefined));
  return useMemo(() => withTrims(look, trims), [look, trims]);
}

/** Trials of the look on a clip. While its trims are set, only dials can vary. */
export function useTrials(store: BenchStore, clip: string): Sheet {
  const [open, setOpen] = useState(false);
  const look = useTrimmedLook(store, clip, open),
    dialsAlone = useStore(store, (s) => s.trimming !== null);
  const [chosen, setChosen] = useState<readonly [Axis | null, Axis | null]>([null, null]);
  const targets = useMemo(
    () => (open ? targetsOf(look).filter((t) => t.dial !== null || !dialsAlone) : []),
    [open, look, dialsAlone],
  );
  const axes = useMemo((): readonly [Axis, Axis | null] => {
    const known = chosen.map((a) => (a && targets.some((t) => t.id === a.target) ? a : null));
    const first = targets.find((t) => t.id !== 'dial:strength') ?? targets[0];
    return [
      known[0] ?? { target: first?.id ?? '', from: first?.soft[0] ?? 0, to: first?.soft[1] ?? 1 },
      known[1] ?? null,
    ];
  }, [chosen, targets]);
  const tiles = useMemo((): readonly Tile[] => {
    const [a, b] = axes.map(
      (axis) => axis && { axis, target: targets.find((t) => t.id === axis.target) },
    );
    if (!open || !a?.target) return NONE;
    const figure = (t: Target, v: number) => `${v}${t.unit && ` ${t.unit}`}`;
    const said = (t: Target, v: number) => `${t.label} ${figure(t, v)}`;
    const tile = (sets: readonly Taken[], words: string, short: string): Tile => ({
      look: sets.reduce((l, { target, value }) => target.set(l, value), look),
      sets,
      words,
      short,
    });
    if (!b?.target)
      return valuesOf(a.axis, ALONE).map((v) =>
        tile([{ target: a.target!, value: v }], said(a.target!, v), said(a.target!, v)),
      );
    return valuesOf(b.axis, ACROSS).flatMap((w) =>
      valuesOf(a.axis, ACROSS).map((v) =>
        tile(
          [
            { target: a.target!, value: v },
            { target: b.target!, value: w },
          ],
          `${said(a.target!, v)}, ${said(b.target!, w)}`,
          `${figure(a.target!, v)} · ${figure(b.target!, w)}`,
        ),
      ),
    );
  }, [open, look, axes, targets]);
  const setAxis: Sheet['setAxis'] = (i, id, range) => {
    const target = targets.find((t) => t.id === id);
    const now = axes[i]?.target === id ? axes[i] : null;
    const held = (v: number) => Math.max(target!.least, Math.min(target!.most, v));
    const next = target
      ? {
          target: id,
          from: held(range?.from ?? now?.from ?? target.soft[0]),
          to: held(range?.to ?? now?.to ?? target.soft[1]),
        }
      : null;
    setChosen(i === 0 ? [next, axes[1]] : [axes[0], next]);
  };
  const looks = useMemo(() => tiles.map((t) => t.look), [tiles]);
  return {
    open,
    toggle: () => setOpen((o) => !o),
    targets,
    axes,
    setAxis,
    columns: axes[1] ? ACROSS : 3,
    tiles,
    looks,
  };
}
