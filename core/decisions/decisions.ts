/**
 * The decisions about a clip, each declared once: its value on a new clip, what it may be, what it
 * changes, and the words for a change by somebody else. A decision is added here; requests, edits,
 * the database, snapshots of deliveries, copies, what the engine gets and the keys of pictures
 * follow.
 */
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsNotEmpty,
  IsObject,
  IsString,
  IsUUID,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import {
  type Balance,
  BalanceNumbers,
  type ClipPins,
  type InOut,
  type PlatePoints,
  ReframeNumbers,
} from '../clip';
import { ENCODINGS, type EncodingId, type Fit, FITS, type Reframe, type Sampling } from '../image';
import type { DialValues } from '../look';
import type { CutDecisions, FlagKind } from '../measure';
import { type Chance, type Retime, USUAL_CHANCE } from '../time';
import {
  ChanceNumbers,
  InOutNumbers,
  IsAccepted,
  IsCutDecisions,
  IsInBeforeOut,
  IsPins,
  IsTrims,
  PlateNumbers,
  RetimeNumbers,
  SamplingNames,
} from './checks';

/** A clip's trims, by the id of the look they belong to. */
export type TrimsByLook = Readonly<Record<string, DialValues>>;
/** Flags accepted by people, by kind, with the reason and the extent at that time. */
export type AcceptedFlags = Readonly<
  Partial<Record<FlagKind, { readonly reason: string; readonly worst: number }>>
>;

/**
 * What a decision changes: how the clip's own frames look (`picture`; also where they are the
 * footage of another clip's pin), which of them are shown when and where a look acts (`clip`),
 * which look is on it (`look`), or no picture at all (`nothing`).
 */
export type Changes = 'picture' | 'clip' | 'look' | 'nothing';

/** A decision about a clip. */
export interface Decision<T, C extends Changes = Changes> {
  /** Its value on a new clip. */
  readonly usual: T;
  readonly changes: C;
  /** What is said of a clip after a change by somebody else: "gulls was trimmed anew". */
  readonly words: string;
  /** Checks of a value that is not null. */
  readonly checks: readonly PropertyDecorator[];
}
const declared =
  <C extends Changes>(changes: C) =>
  <T>(usual: T, words: string, ...checks: PropertyDecorator[]): Decision<T, C> => ({
    usual,
    changes,
    words,
    checks,
  });
const ofPicture = declared('picture'),
  ofClip = declared('clip'),
  ofLook = declared('look'),
  ofNothing = declared('nothing');
const nested = (Kind: new () => object): PropertyDecorator[] => [
  IsObject(),
  ValidateNested(),
  Type(() => Kind),
];

/** All decisions, by their id. Null, where a decision may be, is none. */
export const DECISIONS = {
  name: ofNothing<string>(
    '',
    'has another name',
    IsString(),
    IsNotEmpty({ message: 'a clip needs a name' }),
    MaxLength(120),
  ),
  /** Encoding of its code values. */
  encoding: ofPicture<EncodingId>('srgb', 'is read in another encoding', IsIn(ENCODINGS)),
  /** Corrections of the file's tags. */
  sampling: ofPicture<Sampling | null>(
    null,
    'has its samples read otherwise',
    ...nested(SamplingNames),
  ),
  fit: ofPicture<Fit>('fit', 'lies otherwise in the frame', IsIn(FITS)),
  /** Position and size in the frame; null for the default fit. */
  reframe: ofPicture<Reframe | null>(null, 'was reframed anew', ...nested(ReframeNumbers)),
  /** The correction before any look. */
  balance: ofPicture<Balance | null>(null, 'was balanced anew', ...nested(BalanceNumbers)),
  /** Delivered as a clip, or used as material by looks. */
  role: ofPicture<'clip' | 'plate'>('clip', 'is used otherwise', IsIn(['clip', 'plate'])),
  /** Black and white points as a plate; null for those measured. */
  plate: ofPicture<PlatePoints | null>(null, 'has other plate points', ...nested(PlateNumbers)),
  /** In and out in the footage; null for all of it. */
  inOut: ofClip<InOut | null>(
    null,
    'has another in or out',
    IsInBeforeOut,
    ...nested(InOutNumbers),
  ),
  /** Cuts inside it, as decided by people. */
  cutsSaid: ofClip<CutDecisions>({}, 'had cuts accepted or denied', IsCutDecisions),
  /** Null for the original speed. */
  retime: ofClip<Retime | null>(null, 'was retimed anew', ...nested(RetimeNumbers)),
  /** How chance falls on it: another number is other dust, grain and flutter. */
  chance: ofClip<Chance>(USUAL_CHANCE, 'was given another chance', ...nested(ChanceNumbers)),
  pins: ofClip<ClipPins>({}, 'has other pins', IsPins),
  /** Id of its look version. */
  version: ofLook<string | null>(null, 'was given another look', IsUUID()),
  trims: ofLook<TrimsByLook>({}, 'was trimmed anew', IsTrims),
  /** Whether it moves to the look's next version when one is saved. */
  follows: ofNothing<boolean>(true, 'follows or stays otherwise', IsBoolean()),
  accepted: ofNothing<AcceptedFlags>({}, 'had flags accepted or taken back', IsAccepted),
  status: ofNothing<'open' | 'in work' | 'agreed'>(
    'open',
    'has another status',
    IsIn(['open', 'in work', 'agreed']),
  ),
  note: ofNothing<string>('', 'has another note', IsString(), MaxLength(500)),
  /** Name of the scene that it shares with other clips. */
  scene: ofNothing<string>('', 'belongs to another scene', IsString(), MaxLength(60)),
};

/** Id of a decision. */
export type DecisionId = keyof typeof DECISIONS;
/** Everything that is decided about a clip. */
export type ClipDecisions = {
  readonly [K in DecisionId]: (typeof DECISIONS)[K]['usual'];
};
type IdsOf<C extends Changes> = {
  [K in DecisionId]: (typeof DECISIONS)[K]['changes'] extends C ? K : never;
}[DecisionId];
/** The decisions that change how a clip's own frames look, also as the footage of a pin. */
export type PictureDecisions = Pick<ClipDecisions, IdsOf<'picture'>>;
/** The decisions that change a clip's pictures, its look apart. */
export type ShownDecisions = Pick<ClipDecisions, IdsOf<'picture' | 'clip'>>;

/** Ids of all decisions. */
export const DECISION_IDS = Object.keys(DECISIONS) as readonly DecisionId[];
const idsOf = (...changes: readonly Changes[]): readonly DecisionId[] =>
  DECISION_IDS.filter((id) => changes.includes(DECISIONS[id].changes));
const PICTURE = idsOf('picture'),
  SHOWN = idsOf('picture', 'clip');

const picked = <T>(from: object, ids: readonly DecisionId[]): T =>
  Object.fromEntries(ids.map((id) => [id, (from as Record<string, unknown>)[id]])) as T;
/** The decisions that change how its own frames look. */
export const pictureOf = (from: PictureDecisions): PictureDecisions => picked(from, PICTURE);
/** The decisions that change a clip's pictures, its look apart. */
export const shownOf = (from: ShownDecisions): ShownDecisions => picked(from, SHOWN);
/** The decisions alone, out of whatever carries them. */
export const decisionsOf = <D extends Partial<ClipDecisions>>(from: D): D =>
  picked(
    from,
    DECISION_IDS.filter((id) => id in from),
  );

/** The decisions about a new clip, with some of them made. */
export const decided = (some: Partial<ClipDecisions> = {}): ClipDecisions => ({
  ...picked<ClipDecisions>(
    Object.fromEntries(DECISION_IDS.map((id) => [id, DECISIONS[id].usual])),
    DECISION_IDS,
  ),
  ...decisionsOf(some),
});
/** Whether a decision may be null. */
export const mayBeNone = (id: DecisionId): boolean => DECISIONS[id].usual === null;
