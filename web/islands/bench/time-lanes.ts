/** The time shelf's lanes for a look on the hero, and their keyboard actions. */
import {
  allLayers,
  edit,
  evaluationAt,
  instantOf,
  type LookDocument,
  type Mover,
  parameterAt,
  moverEvents,
  type OnClip,
  resolve,
  stepEvents,
  type SpanUse,
  stepOf,
  stretchOf,
  timeOf,
} from '../../../core';
import { type ClipTime, framesOf, moverOf } from '../../../core/time';
import { copied, copy } from './clipboard';
import type { HeroFacts } from './context';
import { type BenchStore, NO_KEYS } from './store';

/** A lane for a span. */
export interface SpanLane {
  readonly of: { readonly layer?: string; readonly step?: string };
  readonly name: string;
  readonly span: SpanUse;
  readonly first: number;
  readonly last: number;
}
/** All spans of the look, on the hero. */
export function spansOf(look: LookDocument, time: ClipTime): SpanLane[] {
  const lane = (of: SpanLane['of'], name: string, span: SpanUse | undefined): SpanLane[] =>
    span ? [{ of, name, span, ...stretchOf(look, span, {}, time) }] : [];
  return [
    ...lane({}, 'the look', look.span),
    ...allLayers(look).flatMap((l) => [
      ...lane({ layer: l.key }, l.name, l.span),
      ...l.steps.flatMap((s) =>
        lane(
          { layer: l.key, step: s.key },
          `${l.name}: ${stepOf(s.step)?.label ?? s.step}`,
          s.span,
        ),
      ),
    ]),
  ];
}

/** The hero as looks are evaluated on it. */
export const onHero = (hero: Pick<HeroFacts, 'hash' | 'aspect'>, time: ClipTime): OnClip => ({
  ...time,
  content: hero.hash,
  aspect: hero.aspect,
});

/** Frames of a mover's instants on the hero, and of its random events, in order. */
export const eventsOf = (look: LookDocument, mover: Mover, clip: OnClip): number[] =>
  (moverOf(mover.kind)?.instants ?? [])
    .flatMap(({ id }) =>
      (mover.instants?.[id] ?? [{ from: 'start' as const }]).flatMap((i) =>
        framesOf(instantOf(look, i, {}), clip),
      ),
    )
    .concat(moverEvents(look, mover, clip))
    .sort((a, b) => a - b);

/** The targets of a mover as text: the first, and how many more. */
export function targetWords(look: LookDocument, mover: Mover): string {
  const [first, ...more] = mover.targets;
  const found = first && parameterAt(look, first.path);
  return found
    ? `${found.of}: ${found.parameter.label.toLowerCase()}${more.length > 0 ? ` and ${more.length} more` : ''}`
    : 'nothing';
}

/**
 * A number that a mover moves, at every frame of the hero, in shares of its range (0…1); undefined
 * if it moves none.
 */
export function curveOf(
  look: LookDocument,
  mover: Mover,
  hero: HeroFacts,
  time: ClipTime,
): { readonly path: string; readonly values: readonly number[] } | undefined {
  const target = mover.targets.find((t) => parameterAt(look, t.path)?.parameter.kind === 'number');
  const found = target && parameterAt(look, target.path);
  if (!found) return undefined;
  const values = Array.from({ length: time.frames }, (_, frame) => {
    const at = evaluationAt(look, {}, { ...time, frame, content: hero.hash, aspect: hero.aspect });
    return at.moved(
      target.path,
      found.parameter,
      resolve(look, found.setting, at.dials, at),
    ) as number;
  });
  return { path: target.path, values };
}

/** Keyboard actions on lanes. */
export type KeyAct =
  'set' | 'remove' | 'previous' | 'next' | 'earlier' | 'later' | 'copy' | 'paste';

/** Frames of the chosen mover's keys or events; of all movers and spans if none is chosen. */
function marksOf(look: LookDocument, chosen: Mover | undefined, time: OnClip): number[] {
  const movers = chosen ? [chosen] : (look.movers ?? []);
  const own = movers.flatMap((m) => [
    ...edit.keysOnClip(look, m, time).map((k) => k.frame),
    ...eventsOf(look, m, time),
  ]);
  return chosen
    ? own
    : [
        ...own,
        ...spansOf(look, time).flatMap((s) => [s.first, s.last]),
        ...stepEvents(look, time).flatMap((e) => e.frames),
      ];
}

/** Performs a keyboard action. */
export function keyAct(
  store: BenchStore,
  hero: HeroFacts,
  frame: number,
  seek: (f: number) => void,
  act: KeyAct,
): void {
  const { look, mover: chosen, keysChosen, change, show } = store.getState();
  const time = timeOf(hero);
  const mover = look.movers?.find((m) => m.key === chosen);
  if (act === 'previous' || act === 'next') {
    const marks = marksOf(look, mover, onHero(hero, time)).sort((a, b) => a - b);
    const to =
      act === 'next' ? marks.find((m) => m > frame) : marks.filter((m) => m < frame).at(-1);
    if (to !== undefined) seek(to);
    return;
  }
  if (!mover?.keys) return;
  if (act === 'copy')
    return copy({ kind: 'keys', keys: edit.copiedKeys(look, mover.key, keysChosen, time) });
  if (act === 'paste') {
    const c = copied();
    if (c?.kind === 'keys')
      change(`paste keys of ${mover.name}`, edit.pasteKeys(look, mover.key, c.keys, frame, time));
    return;
  }
  const here = edit.keysOnClip(look, mover, time).find((k) => k.frame === frame);
  if (act === 'set') {
    const path = mover.targets[0]!.path,
      found = parameterAt(look, path)!;
    // The value by its keys alone, without other movers.
    const at = evaluationAt(
      { ...look, movers: [mover] },
      {},
      { ...time, frame, content: hero.hash, aspect: hero.aspect },
    );
    change(
      `key of ${mover.name}`,
      edit.setKey(
        look,
        mover.key,
        frame,
        time,
        at.moved(path, found.parameter, resolve(look, found.setting, {})),
      ),
    );
    return;
  }
  if (!here) return;
  if (act === 'remove') {
    change(`remove key of ${mover.name}`, edit.removeKeys(look, mover.key, [here.index]));
    return show({ keysChosen: NO_KEYS });
  }
  const to = Math.max(0, Math.min(time.frames - 1, frame + (act === 'later' ? 1 : -1)));
  change(
    `move key of ${mover.name}`,
    edit.moveKey(look, mover.key, here.index, to, time),
    `nudge ${mover.key} ${here.index}`,
  );
  seek(to);
}
