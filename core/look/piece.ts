/**
 * Pieces: parts of looks kept for other looks, as look documents of their own. A layer comes with
 * the groups it shows and the dials and pins it is bound to.
 */
import { freshKey } from './prune';
import { bindingOf, dialNamed, pinNamed } from './bindings';
import {
  emptyLook,
  type Layer,
  type LookDocument,
  type Mover,
  type Setting,
  STRENGTH,
} from './document';
import { unsuited } from '../parameters';
import { isPlaceKindId } from '../places';
import { stepOf } from '../steps';
import { addLayer, firstTarget, layerOf, newLayer } from './edit';
import { withoutLostTargets } from './edit-time';
import { parameterAt } from './paths';
import { withInner } from './inner';
import { resolve } from './resolve';
import {
  allLayers,
  mapInstants,
  mapLayer,
  mapLayers,
  mapMover,
  mattesOf,
  settingsOf,
  settingsOfMover,
} from './settings';

/**
 * Keys of dials and pins that layers use: by settings, and by layers and mattes that start from
 * them.
 */
function namedBy(layers: readonly Layer[], movers: readonly Mover[]): Set<string> {
  const names = new Set<string>();
  const note = (s: Setting): void => {
    const [dial, pin] = [dialNamed(s), pinNamed(s)];
    if (dial !== undefined) names.add(`dial ${dial}`);
    if (pin !== undefined) names.add(`pin ${pin}`);
  };
  movers.flatMap(settingsOfMover).forEach(note);
  mapInstants({ ...emptyLook(''), layers: [...layers], movers: [...movers] }, (at) => {
    if (at.cue !== undefined) names.add(`pin ${at.cue}`);
    return at;
  });
  for (const l of layers) {
    settingsOf(l).forEach(note);
    if (l.source === 'footage' && l.from !== undefined) names.add(`pin ${l.from}`);
    for (const m of mattesOf(l)) if (m.from !== undefined) names.add(`pin ${m.from}`);
  }
  return names;
}

/** A layer of a look as a piece; undefined if there is no such layer. */
export function pieceOf(look: LookDocument, key: string): LookDocument | undefined {
  const layer = layerOf(look, key);
  if (!layer) return undefined;
  const groups = (look.groups ?? []).filter((g) => shows(look, [layer]).has(g.key));
  const kept = [layer, ...groups.flatMap((g) => g.layers)];
  const movers = (look.movers ?? []).flatMap((m) => {
    const targets = m.targets.filter((t) => kept.some((l) => t.path.startsWith(`${l.key}/`)));
    return targets.length > 0 ? [{ ...m, targets }] : [];
  });
  const names = namedBy(kept, movers);
  const looks = (look.looks ?? []).filter((l) =>
    kept.some((k) => k.source === 'look' && k.from === l.key),
  );
  for (const p of looks.flatMap((l) => l.document.pins ?? [])) names.add(`pin ${p.key}`);
  const pins = (look.pins ?? []).filter((p) => names.has(`pin ${p.key}`));
  const plain: LookDocument = {
    ...emptyLook(layer.name, look.seed),
    dials: look.dials
      .filter((d) => d.key === STRENGTH || names.has(`dial ${d.key}`))
      .map((d) => (d.key === STRENGTH ? { ...d, value: 100 } : d)),
    ...(groups.length > 0 && { groups }),
    ...(looks.length > 0 && { looks }),
    ...(pins.length > 0 && { pins }),
  };
  // What it names and leaves behind (another layer, a parameter elsewhere) becomes a constant.
  const loose = (s: Setting): Setting =>
    bindingOf(s)?.isWithinLook ? { value: resolve(look, s, {}) } : s;
  const piece = addLayer(plain, mapLayer(layer, loose));
  return movers.length > 0 ? { ...piece, movers: movers.map((m) => mapMover(m, loose)) } : piece;
}

/** A step of a look as a piece: on a layer that works on what is below, with its movers. */
export function pieceOfStep(
  look: LookDocument,
  key: string,
  step: string,
): LookDocument | undefined {
  const use = layerOf(look, key)?.steps.find((s) => s.key === step);
  if (!use) return undefined;
  const name = stepOf(use.step)?.label ?? use.step;
  const alone = mapLayers(look, (l) =>
    l.key === key ? { ...newLayer(name, 'below', [], [use]), key } : l,
  );
  const movers = (look.movers ?? []).map((m) => ({
    ...m,
    targets: m.targets.filter((t) => t.path.startsWith(`${key}/${step}/`)),
  }));
  return pieceOf(withoutLostTargets({ ...alone, movers }), key);
}

/** A mover of a look as a piece: without targets, with its parameters as constants. */
export function pieceOfMover(look: LookDocument, key: string): LookDocument | undefined {
  const mover = look.movers?.find((m) => m.key === key);
  if (!mover) return undefined;
  const plain = mapMover(mover, (s) => ('value' in s ? s : { value: resolve(look, s, {}) }));
  const names = namedBy([], [plain]);
  const pins = (look.pins ?? []).filter((p) => names.has(`pin ${p.key}`));
  return {
    ...emptyLook(mover.name, look.seed),
    ...(pins.length > 0 && { pins }),
    movers: [{ ...plain, targets: [] }],
  };
}
/** The mover of a piece; undefined if the piece has layers. */
export const keptMover = (piece: LookDocument): Mover | undefined =>
  piece.layers.length === 0 ? piece.movers?.[0] : undefined;

/**
 * A look with a kept mover added for a path; unchanged if the mover's keys do not suit the
 * parameter.
 */
export function withKeptMover(look: LookDocument, piece: LookDocument, path: string): LookDocument {
  const mover = keptMover(piece),
    found = parameterAt(look, path),
    target = mover && firstTarget(look, mover.kind, path);
  if (!mover || !found || !target || mover.keys?.some((k) => unsuited(found.parameter, k.value)))
    return look;
  const movers = look.movers ?? [],
    own = freshKey(
      mover.key,
      movers.map((m) => m.key),
    );
  const pins = (piece.pins ?? []).filter((p) => !look.pins?.some((o) => o.key === p.key));
  return {
    ...look,
    ...(pins.length > 0 && { pins: [...(look.pins ?? []), ...pins] }),
    movers: [...movers, { ...mover, key: own, targets: [target] }],
  };
}

/** A path with its layer's key replaced. */
function withLayer(path: string, keys: ReadonlyMap<string, string>): string {
  const [layer = '', ...rest] = path.split('/');
  return [keys.get(layer) ?? layer, ...rest].join('/');
}

/** The groups that layers show, directly or through other groups. */
function shows(
  look: LookDocument,
  layers: readonly Layer[],
  seen = new Set<string>(),
): Set<string> {
  for (const { source, from } of layers) {
    if (source !== 'group' || from === undefined || seen.has(from)) continue;
    seen.add(from);
    shows(look, look.groups?.find((g) => g.key === from)?.layers ?? [], seen);
  }
  return seen;
}

/**
 * Fresh keys for a piece's places that the look asks for by the same key as something else: an oval
 * answers for a point, but no point for an oval. What looks inside it ask for keeps its key.
 */
function ownPins(look: LookDocument, piece: LookDocument): ReadonlyMap<string, string> {
  const kept = new Set((piece.looks ?? []).flatMap((l) => l.document.pins ?? []).map((p) => p.key)),
    taken = [...(look.pins ?? []), ...(piece.pins ?? [])].map((p) => p.key),
    keys = new Map<string, string>();
  for (const { key, kind } of piece.pins ?? []) {
    const asked = look.pins?.find((o) => o.key === key)?.kind;
    const suits = asked === undefined || asked === kind || (asked === 'oval' && kind === 'point');
    if (!suits && isPlaceKindId(kind) && !kept.has(key))
      keys.set(key, freshKey(key, [...taken, ...keys.values()]));
  }
  return keys;
}

/**
 * A look with a piece on top. The piece's groups get fresh keys. Its pins are added if the look
 * does not ask for them, under fresh keys if it asks for something else by theirs. Its dials are
 * added unless the look has one with that key and kind, which then drives the piece.
 */
export function withPiece(look: LookDocument, piece: LookDocument): LookDocument {
  const renamed = new Map<string, string>();
  const taken = (look.groups ?? []).map((g) => g.key);
  for (const g of piece.groups ?? []) {
    const key = freshKey(g.key, [...taken, ...renamed.values()]);
    renamed.set(g.key, key);
  }
  const keys = allLayers(look).map((l) => l.key);
  const inner = new Map<string, string>();
  for (const l of (piece.groups ?? []).flatMap((g) => g.layers)) {
    const key = freshKey(l.key, [...keys, ...inner.values()]);
    inner.set(l.key, key);
  }
  // A dial with the same key and kind is the same dial. If the kind differs, the piece's dial gets
  // a fresh key.
  const dialKeys = new Map<string, string>();
  for (const d of piece.dials) {
    const own = look.dials.find((o) => o.key === d.key);
    const names = [
      ...look.dials.map((o) => o.key),
      ...piece.dials.map((o) => o.key),
      ...dialKeys.values(),
    ];
    dialKeys.set(d.key, own && own.kind !== d.kind ? freshKey(d.key, names) : d.key);
  }
  // Inner looks are added too, under fresh keys if theirs are taken.
  const looks = new Map<string, string>();
  let own = look;
  for (const l of piece.looks ?? []) {
    const { look: ready, key } = withInner(own, l.document, l.of);
    looks.set(l.key, key);
    own = ready;
  }
  const pinKeys = ownPins(look, piece);
  const rebound = (s: Setting): Setting =>
    'dial' in s
      ? { ...s, dial: dialKeys.get(s.dial) ?? s.dial }
      : 'pin' in s
        ? { ...s, pin: pinKeys.get(s.pin) ?? s.pin }
        : s;
  const moved = (written: Layer): Layer => {
    const l = mapLayer(written, rebound);
    return {
      ...l,
      ...(l.source === 'group' && { from: renamed.get(l.from ?? '')! }),
      ...(l.source === 'layer' && { from: inner.get(l.from ?? '') ?? l.from! }),
      ...(l.source === 'look' && { from: looks.get(l.from ?? '')! }),
      steps: l.steps.map((s) =>
        s.from === undefined ? s : { ...s, from: inner.get(s.from) ?? s.from },
      ),
    };
  };
  const groups = (piece.groups ?? []).map((g) => ({
    ...g,
    key: renamed.get(g.key)!,
    layers: g.layers.map((l) => ({ ...moved(l), key: inner.get(l.key)! })),
  }));
  const pins = (piece.pins ?? [])
    .map((p) => ({ ...p, key: pinKeys.get(p.key) ?? p.key }))
    .filter((p) => !own.pins?.some((o) => o.key === p.key));
  const dials = piece.dials
    .map((d) => ({ ...d, key: dialKeys.get(d.key)! }))
    .filter((d) => !look.dials.some((own) => own.key === d.key));
  const ready: LookDocument = {
    ...own,
    dials: [...look.dials, ...dials],
    ...(groups.length > 0 && { groups: [...(look.groups ?? []), ...groups] }),
    ...(pins.length > 0 && { pins: [...(own.pins ?? []), ...pins] }),
  };
  let all = ready;
  for (const layer of piece.layers) {
    all = addLayer(all, moved(layer));
    inner.set(layer.key, all.layers.at(-1)!.key);
  }
  const movers = (piece.movers ?? []).map((m) => ({
    ...mapMover(m, rebound),
    key: freshKey(
      m.key,
      (look.movers ?? []).map((own) => own.key),
    ),
    targets: mapMover(m, rebound).targets.map((t) => ({ ...t, path: withLayer(t.path, inner) })),
  }));
  return movers.length > 0 ? { ...all, movers: [...(all.movers ?? []), ...movers] } : all;
}
