/** Test helpers: a database with a project, and footage without files. */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, inject } from 'vitest';
import { emptyLook, type LookDocument } from '../../core';
import { closeDatabase, db, tables } from '../database';
import { stopQueue } from '../jobs/queue';
import type { FootageFacts } from '../media/footage';
import { makeProject } from '../projects/projects';
import { scratch, sweep } from './awkward';

async function on(address: string, statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: address });
  await client.connect();
  await client.query(statement).finally(() => client.end());
}

/** Gives the calling test file its own copy of the migrated database, and a data folder. */
export function useDatabase(): void {
  const template = inject('template'),
    name = `unit_${randomUUID().replaceAll('-', '')}`,
    data = scratch();
  const named = (database: string): string => {
    const address = new URL(template);
    address.pathname = `/${database}`;
    return address.href;
  };
  beforeAll(async () => {
    const of = new URL(template).pathname.slice(1);
    // A template can be copied by one connection at a time; two test files may start together.
    for (let tries = 0; ; tries++)
      try {
        await on(named('postgres'), `create database "${name}" template "${of}"`);
        break;
      } catch (e) {
        if (tries > 40) throw e;
        await new Promise((r) => setTimeout(r, 250));
      }
    process.env['WABISABI_DATABASE'] = named(name);
    process.env['WABISABI_DATA'] = data;
  });
  afterAll(async () => {
    await stopQueue();
    await closeDatabase();
    await on(named('postgres'), `drop database if exists "${name}" with (force)`);
    sweep(data);
  });
}

const FACTS: FootageFacts = {
  kind: 'video',
  codec: 'h264',
  format: { width: 960, height: 540, layout: 'yuv420', depth: 8, full: false, matrix: 'bt709' },
  frames: 80,
  rate: [25, 1],
  guess: 'srgb',
  pixelAspect: 1,
  sound: null,
  sourceFrames: 80,
} as unknown as FootageFacts;

/** Creates a project of 1920×1080 at 25 frames per second; returns its id. */
export const aProject = (name = 'Made for tests'): Promise<string> =>
  makeProject(name, 1920, 1080, [25, 1]);

/** Creates clips of 80 frames, each of its own footage; returns their ids in order. */
export async function clipsIn(projectId: string, names: readonly string[]): Promise<string[]> {
  const hashes = names.map(() => randomUUID());
  await db()
    .insert(tables.footage)
    .values(
      names.map((name, i) => ({
        hash: hashes[i]!,
        name: `${name}.mp4`,
        bytes: 1,
        file: `footage/${hashes[i]!}/original.mp4`,
        facts: { ...FACTS, hash: hashes[i]! },
      })),
    );
  const rows = await db()
    .insert(tables.clips)
    .values(
      names.map((name, place) => ({
        projectId,
        hash: hashes[place]!,
        name,
        place,
      })),
    )
    .returning({ id: tables.clips.id });
  return rows.map((r) => r.id);
}

/** An empty look. */
export const aLook = (name = 'Plain'): LookDocument => emptyLook(name, 1);
