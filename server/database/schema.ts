/**
 * The tables. Media lie as files in the data folder, named by content hash; documents lie here as
 * JSON.
 */
import { relations } from 'drizzle-orm';
import type { Retime } from '../../core/time';
import {
  bigint,
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  primaryKey,
  real,
  serial,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type {
  Balance,
  ClipPins,
  ClipStatistics,
  CutDecisions,
  EncodingId,
  Fit,
  Flag,
  InOut,
  LookDocument,
  PlatePoints,
  Reframe,
  Sampling,
} from '../../core';
import { upToDate } from '../../core';
import type { AcceptedFlags, PinFootage, TrimsByLook } from './columns';
import type { Footage } from '../media/footage';
import type { Progressive } from '../media/progressive';
import type { KeptSamples } from '../render';
import type { Effort, FormatId } from '../render/write';

/** Look documents as this version writes them, whatever schema they were saved in. */
const lookDocument = customType<{ data: LookDocument }>({
  dataType: () => 'jsonb',
  fromDriver: (saved) => upToDate(saved as LookDocument),
  toDriver: (look) => JSON.stringify(look),
});

const id = () => uuid().primaryKey().defaultRandom();
const created = () => timestamp({ withTimezone: true }).notNull().defaultNow();

export const projects = pgTable('projects', {
  id: id(),
  name: text().notNull(),
  width: integer().notNull(),
  height: integer().notNull(),
  rateNum: integer().notNull(),
  rateDen: integer().notNull(),
  /** When anything in it was last changed. */
  touched: timestamp({ withTimezone: true }).notNull().defaultNow(),
  /** Since when it is removed, and can be put back. */
  removed: timestamp({ withTimezone: true }),
  created: created(),
});

export const footage = pgTable('footage', {
  hash: text().primaryKey(),
  name: text().notNull(),
  bytes: bigint({ mode: 'number' }).notNull(),
  /** The original, relative to the data folder. */
  file: text().notNull(),
  facts: jsonb().$type<Footage>().notNull(),
  /**
   * Frames with which another shot begins, as they were found; none before they were looked for.
   */
  cuts: jsonb().$type<number[]>(),
  created: created(),
});

export const looks = pgTable('looks', { id: id(), name: text().notNull(), created: created() });

export const lookVersions = pgTable(
  'look_versions',
  {
    id: id(),
    lookId: uuid()
      .notNull()
      .references(() => looks.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    document: lookDocument().notNull(),
    created: created(),
    /** Out of sight since then; it can be put back. */
    removed: timestamp({ withTimezone: true }),
  },
  (t) => [uniqueIndex().on(t.lookId, t.number)],
);

/** Kept parts of looks, as look documents of their own. */
export const pieces = pgTable('pieces', {
  id: id(),
  name: text().notNull(),
  document: lookDocument().notNull(),
  created: created(),
});

export const clips = pgTable(
  'clips',
  {
    id: id(),
    projectId: uuid()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    hash: text()
      .notNull()
      .references(() => footage.hash),
    name: text().notNull(),
    /** Its rank in the project. What is split off lies halfway to the next. */
    place: doublePrecision().notNull(),
    encoding: text().$type<EncodingId>().notNull(),
    /** What of its samples is not as the file's tags say. */
    sampling: jsonb().$type<Sampling>(),
    fit: text().$type<Fit>().notNull().default('fit'),
    reframe: jsonb().$type<Reframe>(),
    /** What of the footage it is; none: all of it. */
    inOut: jsonb().$type<InOut>(),
    /** Where people say that another shot begins in it, or that none does. */
    cutsSaid: jsonb().$type<CutDecisions>().notNull().default({}),
    /** Its speed; none: its own. */
    retime: jsonb().$type<Retime>(),
    lookVersionId: uuid().references(() => lookVersions.id, { onDelete: 'set null' }),
    status: text().$type<'open' | 'in work' | 'agreed'>().notNull().default('open'),
    note: text().notNull().default(''),
    /** What it is there for: shown and delivered itself, or used as material by looks. */
    role: text().$type<'clip' | 'plate'>().notNull().default('clip'),
    /** Clips of one name belong together. */
    scene: text().notNull().default(''),
    /** Whether it goes on to its look's next version when one is saved. */
    follows: boolean().notNull().default(true),
    trims: jsonb().$type<TrimsByLook>().notNull().default({}),
    pins: jsonb().$type<ClipPins>().notNull().default({}),
    /** The correction before any look; none is none. */
    balance: jsonb().$type<Balance>(),
    /** Its black and white as a plate, where they are not those that were found. */
    plate: jsonb().$type<PlatePoints>(),
    /** Flags that are as they should be, by kind. */
    accepted: jsonb().$type<AcceptedFlags>().notNull().default({}),
    created: created(),
  },
  (t) => [index().on(t.projectId, t.hash)],
);

export const workState = pgEnum('work_state', [
  'waiting',
  'running',
  'done',
  'failed',
  'cancelled',
]);

/** A clip under its look, looked over frame by frame. */
export const inspections = pgTable('inspections', {
  clipId: uuid()
    .primaryKey()
    .references(() => clips.id, { onDelete: 'cascade' }),
  /** Names everything that the flags depend on, as it was when the inspection was asked for. */
  of: text().notNull(),
  state: workState().notNull().default('waiting'),
  /** 0…1. */
  progress: real().notNull().default(0),
  flags: jsonb().$type<Flag[]>().notNull().default([]),
  error: text(),
});

/**
 * What is computed once from an original and kept as files beside it: by footage, kind and method.
 */
export const derivedAssets = pgTable(
  'derived_assets',
  {
    hash: text()
      .notNull()
      .references(() => footage.hash, { onDelete: 'cascade' }),
    kind: text().$type<'motion'>().notNull(),
    /** The method and its version: another one is another asset. */
    method: text().notNull(),
    state: workState().notNull().default('waiting'),
    /** 0…1. */
    progress: real().notNull().default(0),
    error: text(),
  },
  (t) => [primaryKey({ columns: [t.hash, t.kind, t.method] })],
);

/** What footage, or a stretch of it, is like as a whole when it is read in an encoding. */
export const clipStatistics = pgTable(
  'clip_statistics',
  {
    hash: text()
      .notNull()
      .references(() => footage.hash, { onDelete: 'cascade' }),
    encoding: text().$type<EncodingId>().notNull(),
    /** `samplingKey` of how its samples are read. */
    sampling: text().notNull().default(''),
    /** `stretchKey` of what of it is measured. */
    stretch: text().notNull().default(''),
    statistics: jsonb().$type<ClipStatistics>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.hash, t.encoding, t.sampling, t.stretch] })],
);

/** A picture kept to hold others against: what it showed, exactly, and how it looked then. */
export const keptReferences = pgTable('kept_references', {
  id: id(),
  projectId: uuid()
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  name: text().notNull(),
  clipId: uuid().references(() => clips.id, { onDelete: 'set null' }),
  clipName: text().notNull(),
  frame: integer().notNull(),
  /** The version it was made from; `document` may hold edits that were never saved. */
  versionId: uuid().references(() => lookVersions.id, { onDelete: 'set null' }),
  document: lookDocument().notNull(),
  /** A PNG in the data folder. */
  picture: text().notNull(),
  /** Of the picture; measured when they are first asked for. */
  statistics: jsonb().$type<ClipStatistics>(),
  created: created(),
});

export const imports = pgTable('imports', {
  id: id(),
  /** Rises: clips stand in the order in which they were brought, whichever is done first. */
  number: serial().notNull(),
  projectId: uuid()
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  name: text().notNull(),
  files: jsonb().$type<string[]>().notNull(),
  /** Footage that is there already and is made progressive, instead of files. */
  progressive: jsonb().$type<Progressive>(),
  state: workState().notNull().default('waiting'),
  /** 0…1, and what is being done. */
  progress: real().notNull().default(0),
  doing: text().notNull().default(''),
  error: text(),
  clipId: uuid().references(() => clips.id, { onDelete: 'set null' }),
  created: created(),
});

export const deliveries = pgTable('deliveries', {
  id: id(),
  projectId: uuid()
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  format: text().$type<FormatId>().notNull(),
  width: integer().notNull(),
  height: integer().notNull(),
  /** Whether coverage is kept beside the picture. */
  coverage: boolean().notNull().default(false),
  /** Of H.264: how much time for how small a file. */
  effort: text().$type<Effort>().notNull().default('usual'),
  /** Set where frames are made to be kept, and no files: the samples they are kept as. */
  keeps: text().$type<KeptSamples>(),
  created: created(),
});

/**
 * One clip of a delivery, with everything its render depends on as it was when it was asked for.
 */
export const deliveryItems = pgTable('delivery_items', {
  id: id(),
  deliveryId: uuid()
    .notNull()
    .references(() => deliveries.id, { onDelete: 'cascade' }),
  clipName: text().notNull(),
  /** Of frames that are kept: whose they are, and the first of them. */
  clipId: uuid().references(() => clips.id, { onDelete: 'cascade' }),
  first: integer().notNull().default(0),
  hash: text()
    .notNull()
    .references(() => footage.hash),
  encoding: text().$type<EncodingId>().notNull(),
  sampling: jsonb().$type<Sampling>(),
  fit: text().$type<Fit>().notNull(),
  reframe: jsonb().$type<Reframe>(),
  inOut: jsonb().$type<InOut>(),
  /** The frames of the footage with which another shot begins. */
  cuts: jsonb().$type<number[]>().notNull().default([]),
  retime: jsonb().$type<Retime>(),
  balance: jsonb().$type<Balance>(),
  pins: jsonb().$type<ClipPins>().notNull().default({}),
  /** How the footage of its pins is read. */
  beside: jsonb().$type<Record<string, PinFootage>>().notNull().default({}),
  lookName: text(),
  look: lookDocument(),
  state: workState().notNull().default('waiting'),
  frames: integer().notNull(),
  error: text(),
  file: text(),
  bytes: bigint({ mode: 'number' }),
  /** Rises when it is tried again: what an earlier attempt still does is of no account. */
  attempt: integer().notNull().default(1),
  started: timestamp({ withTimezone: true }),
  ended: timestamp({ withTimezone: true }),
});

export const chunks = pgTable(
  'chunks',
  {
    id: id(),
    itemId: uuid()
      .notNull()
      .references(() => deliveryItems.id, { onDelete: 'cascade' }),
    attempt: integer().notNull(),
    first: integer().notNull(),
    count: integer().notNull(),
    rendered: integer().notNull().default(0),
    done: boolean().notNull().default(false),
    hashes: jsonb().$type<string[]>(),
  },
  (t) => [uniqueIndex().on(t.itemId, t.attempt, t.first)],
);

/** Worker processes say every few seconds that they live. */
export const workers = pgTable('workers', {
  id: uuid().primaryKey(),
  host: text().notNull(),
  pid: integer().notNull(),
  /** The jobs it is at. */
  jobs: jsonb().$type<string[]>().notNull().default([]),
  seen: timestamp({ withTimezone: true }).notNull().defaultNow(),
});

export const clipRelations = relations(clips, ({ one }) => ({
  project: one(projects, { fields: [clips.projectId], references: [projects.id] }),
  inspection: one(inspections, { fields: [clips.id], references: [inspections.clipId] }),
  footage: one(footage, { fields: [clips.hash], references: [footage.hash] }),
  version: one(lookVersions, { fields: [clips.lookVersionId], references: [lookVersions.id] }),
}));
export const versionRelations = relations(lookVersions, ({ one }) => ({
  look: one(looks, { fields: [lookVersions.lookId], references: [looks.id] }),
}));
export const lookRelations = relations(looks, ({ many }) => ({ versions: many(lookVersions) }));
export const deliveryRelations = relations(deliveries, ({ many }) => ({
  items: many(deliveryItems),
}));
export const itemRelations = relations(deliveryItems, ({ one, many }) => ({
  delivery: one(deliveries, { fields: [deliveryItems.deliveryId], references: [deliveries.id] }),
  footage: one(footage, { fields: [deliveryItems.hash], references: [footage.hash] }),
  chunks: many(chunks),
}));
export const chunkRelations = relations(chunks, ({ one }) => ({
  item: one(deliveryItems, { fields: [chunks.itemId], references: [deliveryItems.id] }),
}));
