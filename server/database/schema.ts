/**
 * The tables. Media are files in the data folder, named by content hash; documents are stored here
 * as JSON.
 */
import { relations } from 'drizzle-orm';
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
  BeatsSaid,
  ClipStatistics,
  CutDocument,
  Effort,
  EncodingId,
  Flag,
  FormatId,
  FrameAssetId,
  KeptLoudness,
  LookDocument,
  SoundFacts,
} from '../../core';
import type { TraceGiven } from '../../core/trace';
import { BEATS_FOUND, upToDate } from '../../core';
import {
  type CutSnapshot,
  cutSnapshot,
  type ItemSubject,
  itemSubject,
  type KeptDecisions,
  keptDecisions,
} from './columns';
import type { Again } from '../media/again';
import type { Footage, FootageFacts } from '../media/footage';
import type { KeptSamples } from '../render';

/** Look documents; older schemas are migrated when read. */
const lookDocument = customType<{ data: LookDocument }>({
  dataType: () => 'jsonb',
  fromDriver: (saved) => upToDate(saved as LookDocument),
  toDriver: (look) => JSON.stringify(look),
});

/** Decisions; those that did not exist when they were saved are as usual. */
const decisionsColumn = customType<{ data: KeptDecisions }>({
  dataType: () => 'jsonb',
  fromDriver: (saved) => keptDecisions(saved as KeptDecisions),
  toDriver: (kept) => JSON.stringify(kept),
});
/** What items were rendered from. */
const subjectColumn = customType<{ data: ItemSubject }>({
  dataType: () => 'jsonb',
  fromDriver: (saved) => itemSubject(saved as ItemSubject),
  toDriver: (subject) => JSON.stringify(subject),
});
/** What items of a whole cut were rendered from. */
const snapshotColumn = customType<{ data: CutSnapshot }>({
  dataType: () => 'jsonb',
  fromDriver: (saved) => cutSnapshot(saved as CutSnapshot),
  toDriver: (cut) => JSON.stringify(cut),
});

const id = () => uuid().primaryKey().defaultRandom();
const created = () => timestamp({ withTimezone: true }).notNull().defaultNow();

/** Projects. */
export const projects = pgTable('projects', {
  id: id(),
  name: text().notNull(),
  width: integer().notNull(),
  height: integer().notNull(),
  rateNum: integer().notNull(),
  rateDen: integer().notNull(),
  /** Time of the last change of anything in it. */
  touched: timestamp({ withTimezone: true }).notNull().defaultNow(),
  /** Time of its removal; it can be restored. */
  removed: timestamp({ withTimezone: true }),
  created: created(),
});

/** Footage, by content hash. */
export const footage = pgTable('footage', {
  hash: text().primaryKey(),
  name: text().notNull(),
  bytes: bigint({ mode: 'number' }).notNull(),
  /** The original file, relative to the data folder. */
  file: text().notNull(),
  facts: jsonb().$type<FootageFacts>().notNull(),
  /** Time and hash of every frame: read only where frames are decoded. */
  index: jsonb().$type<Footage['index']>().notNull().default({ times: [], hashes: [] }),
  /** Detected cuts: frames at which another shot begins; null before detection. */
  cuts: jsonb().$type<number[]>(),
  created: created(),
});

/** Looks. */
export const looks = pgTable('looks', { id: id(), name: text().notNull(), created: created() });

/** Versions of looks. They never change. */
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
    /** Time of its removal; it can be restored. */
    removed: timestamp({ withTimezone: true }),
  },
  (t) => [uniqueIndex().on(t.lookId, t.number)],
);

/** Pieces of looks, as look documents of their own. */
export const pieces = pgTable('pieces', {
  id: id(),
  name: text().notNull(),
  document: lookDocument().notNull(),
  created: created(),
});

/** Clips: parts of footage in a project, with the decisions about them. */
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
    /**
     * Rank in the project. A clip that is split off gets the middle of the distance to the next.
     */
    place: doublePrecision().notNull(),
    lookVersionId: uuid().references(() => lookVersions.id, { onDelete: 'set null' }),
    /** Everything that people decide about it, but for its name and its look's version. */
    decided: decisionsColumn()
      .notNull()
      .$defaultFn(() => keptDecisions()),
    created: created(),
  },
  (t) => [index().on(t.projectId, t.hash), index().on(t.hash), index().on(t.lookVersionId)],
);

/** States of a job. */
export const workState = pgEnum('work_state', [
  'waiting',
  'running',
  'done',
  'failed',
  'cancelled',
]);

/** Inspections of clips under their looks. */
export const inspections = pgTable('inspections', {
  clipId: uuid()
    .primaryKey()
    .references(() => clips.id, { onDelete: 'cascade' }),
  /** Hash of everything the flags depend on, at the time of the request. */
  of: text().notNull(),
  state: workState().notNull().default('waiting'),
  /** 0…1. */
  progress: real().notNull().default(0),
  flags: jsonb().$type<Flag[]>().notNull().default([]),
  error: text(),
});

/** Files computed once from an original, by footage, kind and method. */
export const derivedAssets = pgTable(
  'derived_assets',
  {
    hash: text()
      .notNull()
      .references(() => footage.hash, { onDelete: 'cascade' }),
    kind: text().$type<FrameAssetId | 'track'>().notNull(),
    /** Method with its version; another method is another asset. */
    method: text().notNull(),
    /** Digest of what it is made from besides the footage; empty where there is nothing. */
    of: text().notNull().default(''),
    /** What it is made from besides the footage. */
    given: jsonb().$type<TraceGiven>(),
    state: workState().notNull().default('waiting'),
    /** 0…1. */
    progress: real().notNull().default(0),
    error: text(),
    /** Bytes of its files, once it is done. */
    bytes: bigint({ mode: 'number' }).notNull().default(0),
    /** When it was last read or asked for. */
    used: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.hash, t.kind, t.method, t.of] })],
);

/** What people traced in footage: marks, never what was found from them. */
export const traces = pgTable(
  'traces',
  {
    id: id(),
    projectId: uuid()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    hash: text()
      .notNull()
      .references(() => footage.hash, { onDelete: 'cascade' }),
    name: text().notNull(),
    given: jsonb().$type<TraceGiven>().notNull(),
    created: created(),
  },
  (t) => [index().on(t.projectId, t.hash)],
);

/** Sound files, by content hash. */
export const soundFiles = pgTable('sound_files', {
  hash: text().primaryKey(),
  bytes: bigint({ mode: 'number' }).notNull(),
  /** The original file, relative to the data folder. */
  file: text().notNull(),
  facts: jsonb().$type<SoundFacts>().notNull(),
  created: created(),
});

/** Sounds of projects: the song, and what lies under a cut. */
export const sounds = pgTable(
  'sounds',
  {
    id: id(),
    projectId: uuid()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    hash: text()
      .notNull()
      .references(() => soundFiles.hash),
    name: text().notNull(),
    /** What is said of its beats. */
    beats: jsonb().$type<BeatsSaid>().notNull().default(BEATS_FOUND),
    /** Time of its removal; it can be restored. */
    removed: timestamp({ withTimezone: true }),
    created: created(),
  },
  (t) => [index().on(t.projectId, t.hash)],
);

/** Statistics of footage or a part of it, in an encoding. */
export const clipStatistics = pgTable(
  'clip_statistics',
  {
    hash: text()
      .notNull()
      .references(() => footage.hash, { onDelete: 'cascade' }),
    encoding: text().$type<EncodingId>().notNull(),
    /** `samplingKey` of the corrections of its tags. */
    sampling: text().notNull().default(''),
    /** `stretchKey` of the measured part. */
    stretch: text().notNull().default(''),
    statistics: jsonb().$type<ClipStatistics>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.hash, t.encoding, t.sampling, t.stretch] })],
);

/** Pictures kept for comparison, with everything they showed. */
export const keptReferences = pgTable(
  'kept_references',
  {
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
    /** A PNG file in the data folder. */
    picture: text().notNull(),
    /** Statistics of the picture, measured when first needed. */
    statistics: jsonb().$type<ClipStatistics>(),
    created: created(),
  },
  (t) => [index().on(t.projectId)],
);

/** Imports. */
export const imports = pgTable(
  'imports',
  {
    id: id(),
    /** Increasing; clips keep the order of their imports, whichever is done first. */
    number: serial().notNull(),
    projectId: uuid()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text().notNull(),
    files: jsonb().$type<string[]>().notNull(),
    /** What it is brought in as. */
    role: text().$type<'clip' | 'plate'>().notNull().default('clip'),
    /** Existing footage that it is made from, instead of uploaded files. */
    again: jsonb().$type<Again>(),
    state: workState().notNull().default('waiting'),
    /** 0…1, and a description of the current work. */
    progress: real().notNull().default(0),
    doing: text().notNull().default(''),
    error: text(),
    clipId: uuid().references(() => clips.id, { onDelete: 'set null' }),
    created: created(),
  },
  (t) => [index().on(t.projectId)],
);

/** Deliveries. */
export const deliveries = pgTable(
  'deliveries',
  {
    id: id(),
    projectId: uuid()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    format: text().$type<FormatId>().notNull(),
    width: integer().notNull(),
    height: integer().notNull(),
    /** Whether coverage is written beside the picture. */
    coverage: boolean().notNull().default(false),
    /** For H.264: encoding time against file size. */
    effort: text().$type<Effort>().notNull().default('usual'),
    /** For baking: the form in which frames are kept. Null for deliveries of files. */
    keeps: text().$type<KeptSamples>(),
    created: created(),
  },
  (t) => [index().on(t.projectId)],
);

/** The cuts of projects: one each, changed by everybody who works on it. */
export const cuts = pgTable('cuts', {
  projectId: uuid()
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  document: jsonb().$type<CutDocument>().notNull(),
  /** Counts changes; an edit names the revision that it changes. */
  revision: integer().notNull().default(1),
});

/** Versions of cuts, kept by name. They never change. */
export const cutVersions = pgTable(
  'cut_versions',
  {
    id: id(),
    projectId: uuid()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    name: text().notNull(),
    document: jsonb().$type<CutDocument>().notNull(),
    created: created(),
  },
  (t) => [uniqueIndex().on(t.projectId, t.number)],
);

/**
 * One clip of a delivery, or a whole cut, with everything its render depends on at the time of the
 * request.
 */
export const deliveryItems = pgTable(
  'delivery_items',
  {
    id: id(),
    deliveryId: uuid()
      .notNull()
      .references(() => deliveries.id, { onDelete: 'cascade' }),
    clipName: text().notNull(),
    /** For baking: the clip, and its first frame. */
    clipId: uuid().references(() => clips.id, { onDelete: 'cascade' }),
    first: integer().notNull().default(0),
    /** Null for a cut. */
    hash: text().references(() => footage.hash),
    /** The decisions about the clip, and what else its pictures depend on; null for a cut. */
    subject: subjectColumn(),
    /** The cut; null for a clip. */
    cut: snapshotColumn(),
    lookName: text(),
    look: lookDocument(),
    state: workState().notNull().default('waiting'),
    frames: integer().notNull(),
    error: text(),
    file: text(),
    bytes: bigint({ mode: 'number' }),
    /** How loud the file's sound is; null without sound, and of files from before it was measured. */
    loudness: jsonb().$type<KeptLoudness>(),
    /** Number of the attempt; results of earlier attempts are ignored. */
    attempt: integer().notNull().default(1),
    started: timestamp({ withTimezone: true }),
    ended: timestamp({ withTimezone: true }),
  },
  (t) => [index().on(t.deliveryId), index().on(t.clipId)],
);

/** Chunks of items: consecutive frames rendered by one worker. */
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

/** Worker processes; each reports every few seconds. */
export const workers = pgTable('workers', {
  id: uuid().primaryKey(),
  host: text().notNull(),
  pid: integer().notNull(),
  /** Ids of its current jobs. */
  jobs: jsonb().$type<string[]>().notNull().default([]),
  seen: timestamp({ withTimezone: true }).notNull().defaultNow(),
});

/** Jobs whose worker died while it worked on them, with how often. */
export const jobDeaths = pgTable('job_deaths', {
  job: uuid().primaryKey(),
  deaths: integer().notNull(),
});

/** Relations of a clip: project, footage, look version, inspection. */
export const clipRelations = relations(clips, ({ one }) => ({
  project: one(projects, { fields: [clips.projectId], references: [projects.id] }),
  inspection: one(inspections, { fields: [clips.id], references: [inspections.clipId] }),
  footage: one(footage, { fields: [clips.hash], references: [footage.hash] }),
  version: one(lookVersions, { fields: [clips.lookVersionId], references: [lookVersions.id] }),
}));
/** Relations of a sound: its file. */
export const soundRelations = relations(sounds, ({ one }) => ({
  of: one(soundFiles, { fields: [sounds.hash], references: [soundFiles.hash] }),
}));
/** Relations of a version: its look. */
export const versionRelations = relations(lookVersions, ({ one }) => ({
  look: one(looks, { fields: [lookVersions.lookId], references: [looks.id] }),
}));
/** Relations of a look: its versions. */
export const lookRelations = relations(looks, ({ many }) => ({ versions: many(lookVersions) }));
/** Relations of a delivery: its items. */
export const deliveryRelations = relations(deliveries, ({ many }) => ({
  items: many(deliveryItems),
}));
/** Relations of an item: delivery, footage, chunks. */
export const itemRelations = relations(deliveryItems, ({ one, many }) => ({
  delivery: one(deliveries, { fields: [deliveryItems.deliveryId], references: [deliveries.id] }),
  footage: one(footage, { fields: [deliveryItems.hash], references: [footage.hash] }),
  chunks: many(chunks),
}));
/** Relations of a chunk: its item. */
export const chunkRelations = relations(chunks, ({ one }) => ({
  item: one(deliveryItems, { fields: [chunks.itemId], references: [deliveryItems.id] }),
}));
