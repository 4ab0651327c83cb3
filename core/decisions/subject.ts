/** The one key of what a picture of a clip depends on. */
import { type PlatePoints, tracesNamed } from '../clip';
import { Hasher } from '../graph';
import { footagePins, type LookDocument } from '../look';
import {
  DECISIONS,
  type DecisionId,
  type PictureDecisions,
  pictureOf,
  type ShownDecisions,
  shownOf,
} from './decisions';

/** Footage that pins may name, with the decisions about it. */
export interface PinnedFootage extends PictureDecisions {
  readonly hash: string;
  /** Points measured as a plate, if they are known by now. */
  readonly measured?: PlatePoints | null | undefined;
}
/** What a picture of a clip depends on. */
export interface Subject {
  /** Content hash of the footage. */
  readonly hash: string;
  readonly decisions: ShownDecisions;
  /** Frames of the footage at which another shot begins. */
  readonly cuts: readonly number[];
  /** Anything that names the look, its trims included; null for none. */
  readonly look: unknown;
  /** The look's document, for the pins it asks for; undefined to count all pins of footage. */
  readonly asks?: LookDocument | null | undefined;
  /** The footage of the project that a pin names by its hash (`pinned`); asked for pins alone. */
  readonly footage: (hash: string) => PinnedFootage | undefined;
  /** Name of the track of a trace that a pin names (`Track`), which changes with its marks. */
  readonly tracks?: ((trace: string) => string | undefined) | undefined;
  /** Name and version of what is computed, with sizes and what else it depends on. */
  readonly method: unknown;
}

/** JSON with the names of objects in order, so that equal values have one text. */
export const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    typeof v === 'object' && v !== null && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)))
      : v,
  );

/**
 * The decisions that differ from those about a new clip, so that a decision that did not exist when
 * a key was made leaves it as it was.
 */
const made = (decisions: object): object =>
  Object.fromEntries(
    Object.entries(decisions).filter(
      ([id, value]) => canonical(value) !== canonical(DECISIONS[id as DecisionId].usual),
    ),
  );

const digests = new WeakMap<object, string>();
/** A look's digest. Documents never change, so that of each is made once. */
function digestOf(look: unknown): unknown {
  if (typeof look !== 'object' || look === null) return look;
  const known = digests.get(look) ?? new Hasher().text(canonical(look)).hex();
  digests.set(look, known);
  return known;
}

/**
 * Key of a subject: 128 bits as hexadecimal digits. It serves inspections, kept small pictures and
 * whatever else is valid as long as its subject is the same.
 */
export function subjectKey({
  hash,
  decisions,
  cuts,
  look,
  asks,
  footage,
  tracks,
  method,
}: Subject): string {
  const named =
    asks === undefined
      ? Object.values(decisions.pins).flatMap((all) => all.flatMap((p) => ('hash' in p ? [p] : [])))
      : footagePins(asks, decisions.pins).map(([, pin]) => pin);
  const beside = named.map((pin) => {
    const found = footage(pin.hash);
    if (!found) return null;
    return [found.hash, made(pictureOf(found)), found.plate ?? found.measured ?? null];
  });
  const keys =
    asks === undefined ? Object.keys(decisions.pins) : (asks?.pins ?? []).map((p) => p.key);
  const traced = tracesNamed(decisions.pins, keys).map((trace) => tracks?.(trace) ?? null);
  return new Hasher()
    .text(
      canonical([
        ...[method, hash, made(shownOf(decisions)), cuts, digestOf(look), beside],
        ...(traced.length > 0 ? [traced] : []),
      ]),
    )
    .hex();
}
