/** Looks inside a look: adding, updating, and detecting cycles. */
import { freshKey } from './prune';
import type { Parameter } from '../parameters';
import type { InnerLook, Layer, LookDocument, LookVersion, PinAsk, Setting } from './document';
import { withoutLostTargets } from './edit-time';
import { innerDials } from './paths';
import { allLayers, looksWithin, mapInstants, mapLayers, mapSettings } from './settings';

/** A look whose pins, also those of looks inside it, have other keys. */
function withPinsCalled(look: LookDocument, names: ReadonlyMap<string, string>): LookDocument {
  if (names.size === 0) return look;
  const called = <K extends string | undefined>(key: K): K =>
    key === undefined ? key : ((names.get(key) as K | undefined) ?? key);
  const pins = new Set((look.pins ?? []).map((p) => p.key));
  const ownPin = <T extends { from?: string }>(of: T): T =>
    of.from !== undefined && pins.has(of.from) ? { ...of, from: called(of.from) } : of;
  const settings = mapSettings(look, (s) => ('pin' in s ? { ...s, pin: called(s.pin) } : s));
  const instants = mapInstants(settings, (at) =>
    at.cue === undefined ? at : { ...at, cue: called(at.cue) },
  );
  return {
    ...mapLayers(instants, (l) => ({
      ...(l.source === 'footage' ? ownPin(l) : l),
      steps: l.steps.map((s) => ({ ...s, ...(s.mattes && { mattes: s.mattes.map(ownPin) }) })),
      ...(l.mattes && { mattes: l.mattes.map(ownPin) }),
    })),
    ...(look.pins && { pins: look.pins.map((p) => ({ ...p, key: called(p.key) })) }),
    ...(look.looks && {
      looks: look.looks.map((l) => ({ ...l, document: withPinsCalled(l.document, names) })),
    }),
  };
}

/**
 * Makes `look` ask for all pins of another look. A pin with the same key but another kind gets
 * another key: the one it had in `before` (an earlier version), so that clips keep their settings.
 */
function asking(
  look: LookDocument,
  document: LookDocument,
  before?: LookDocument,
): { readonly look: LookDocument; readonly document: LookDocument } {
  const own = look.pins ?? [],
    theirs = document.pins ?? [];
  const names = new Map<string, string>();
  const hadKey = (p: PinAsk): string | undefined =>
    before?.pins?.find((o) => o.kind === p.kind && o.label === p.label)?.key;
  for (const p of theirs)
    if (own.some((o) => o.key === p.key && o.kind !== p.kind))
      names.set(
        p.key,
        hadKey(p) ??
          freshKey(p.key, [...own, ...theirs].map((o) => o.key).concat([...names.values()])),
      );
  const renamed = withPinsCalled(document, names);
  const more = (renamed.pins ?? []).filter((p: PinAsk) => !own.some((o) => o.key === p.key));
  return { look: more.length > 0 ? { ...look, pins: [...own, ...more] } : look, document: renamed };
}

const sameVersion = (a: LookVersion | undefined, b: LookVersion | undefined): boolean =>
  a !== undefined && b !== undefined && a.look === b.look && a.version === b.version;

/**
 * A look with another inside it, and the key of that. If the same version is inside already, its
 * key is used.
 */
export function withInner(
  look: LookDocument,
  document: LookDocument,
  of?: LookVersion,
): { readonly look: LookDocument; readonly key: string } {
  const all = look.looks ?? [],
    known = all.find((l) => sameVersion(l.of, of));
  if (known) return { look, key: known.key };
  const ready = asking(look, document),
    key = freshKey(
      document.name,
      all.map((l) => l.key),
    );
  return {
    look: { ...ready.look, looks: [...all, { key, document: ready.document, ...(of && { of }) }] },
    key,
  };
}

/**
 * Replaces an inner look by another version. Dials that its layers set and that no longer exist, or
 * are of another kind, are dropped.
 */
export function takenUp(
  look: LookDocument,
  key: string,
  document: LookDocument,
  of: LookVersion,
): LookDocument {
  const ready = asking(look, document, look.looks?.find((l) => l.key === key)?.document);
  const next = changeInner(ready.look, key, { document: ready.document, of });
  return withoutLostTargets(
    mapLayers(next, (l) =>
      l.source === 'look' && l.from === key ? withKnownDials(look, next, l) : l,
    ),
  );
}
/** Changes fields of an inner look. */
export const changeInner = (
  look: LookDocument,
  key: string,
  change: Partial<Omit<InnerLook, 'key'>>,
): LookDocument => ({
  ...look,
  looks: (look.looks ?? []).map((l) => (l.key === key ? { ...l, ...change } : l)),
});
/**
 * The dials that a layer sets on its inner look, reduced to those that still exist and clamped to
 * their ranges.
 */
function withKnownDials(
  before: LookDocument,
  after: LookDocument,
  { dials, ...layer }: Layer,
): Layer {
  const [was, now] = [before, after].map((l) => innerDials(l, layer)) as [
    readonly Parameter[],
    readonly Parameter[],
  ];
  const known = Object.entries(dials ?? {}).flatMap(([id, s]): [string, Setting][] => {
    const p = now.find((d) => d.id === id);
    return p && p.kind === was.find((d) => d.id === id)?.kind ? [[id, heldTo(p, s)]] : [];
  });
  return known.length > 0 ? { ...layer, dials: Object.fromEntries(known) } : layer;
}
function heldTo(p: Parameter, s: Setting): Setting {
  if (p.kind !== 'number') return s;
  const held = (v: number): number => Math.max(p.min, Math.min(p.max, v));
  if ('value' in s) return { value: held(s.value as number) };
  return 'dial' in s && s.from !== undefined && s.to !== undefined
    ? { ...s, from: held(s.from), to: held(s.to) }
    : s;
}

/** Removes inner looks that no layer starts from, and what moved their dials. */
export function withoutIdleLooks(look: LookDocument): LookDocument {
  const used = new Set(allLayers(look).flatMap((l) => (l.source === 'look' ? [l.from] : [])));
  // Another layer may still start from it.
  if (!look.looks?.some((l) => !used.has(l.key)))
    return look.looks ? withoutLostTargets(look) : look;
  const { looks, ...plain } = look;
  const left = looks.filter((l) => used.has(l.key));
  return withoutLostTargets(left.length > 0 ? { ...plain, looks: left } : plain);
}

/**
 * Whether a look of the catalogue is inside another, at any depth; the other cannot then be inside
 * it.
 */
export const liesWithin = (look: LookDocument, id: string): boolean =>
  [look, ...looksWithin(look)].some((l) => (l.looks ?? []).some((inner) => inner.of?.look === id));

/** Whether an inner look asks for a pin, so that the outer look must. */
export const isAskedWithin = (look: LookDocument, pin: string): boolean =>
  (look.looks ?? []).some((l) => (l.document.pins ?? []).some((p) => p.key === pin));
