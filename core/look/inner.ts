/** Looks within a look: brought in, taken up anew, and what leads back to itself. */
import { freshKey } from './prune';
import type { Parameter } from '../parameters';
import type { InnerLook, Layer, LookDocument, LookVersion, PinAsk, Setting } from './document';
import { withoutLostTargets } from './edit-time';
import { innerDials } from './paths';
import { allLayers, looksWithin, mapInstants, mapLayers, mapSettings } from './settings';

/** A look that asks for pins under other keys, those within it too. */
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
 * What another look asks for, asked for by this one too; a pin of its key but of another kind gets
 * another key: the one it had in `before`, where that is an earlier version, so that clips keep
 * what they have set.
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
 * A look with another within it, and that one's key: the one it has already, where it has that
 * version.
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
 * A look within taken up in another version: what its layers set of dials that it has no more, or
 * of another kind, goes.
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
export const changeInner = (
  look: LookDocument,
  key: string,
  change: Partial<Omit<InnerLook, 'key'>>,
): LookDocument => ({
  ...look,
  looks: (look.looks ?? []).map((l) => (l.key === key ? { ...l, ...change } : l)),
});
/**
 * What a layer sets of the dials of the look it begins with, as far as that has them still, held to
 * their new ranges.
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

/** Looks within that no layer begins with go, and what moved their dials. */
export function withoutIdleLooks(look: LookDocument): LookDocument {
  const used = new Set(allLayers(look).flatMap((l) => (l.source === 'look' ? [l.from] : [])));
  // A layer may have left one that others still begin with.
  if (!look.looks?.some((l) => !used.has(l.key)))
    return look.looks ? withoutLostTargets(look) : look;
  const { looks, ...plain } = look;
  const left = looks.filter((l) => used.has(l.key));
  return withoutLostTargets(left.length > 0 ? { ...plain, looks: left } : plain);
}

/**
 * Whether a look of the catalogue lies within another, however deep: that one cannot lie within it
 * then.
 */
export const liesWithin = (look: LookDocument, id: string): boolean =>
  [look, ...looksWithin(look)].some((l) => (l.looks ?? []).some((inner) => inner.of?.look === id));

/** Whether a look within asks for a pin, so that the look around it must. */
export const isAskedWithin = (look: LookDocument, pin: string): boolean =>
  (look.looks ?? []).some((l) => (l.document.pins ?? []).some((p) => p.key === pin));
