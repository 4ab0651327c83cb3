/** Sounds: brought in once, renamed, taken away and put back, copied with their project. */
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { db, tables } from '../database';
import { runImport } from '../footage/import-job';
import { importPath } from '../footage/imports';
import { SAMPLES_FILE } from '../media/sound-file';
import { copyProject } from '../projects/projects';
import { aProject, useDatabase } from '../testing/database';
import { changeSound, inSound, soundsOf } from './sounds';

useDatabase();
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const data = mkdtempSync(join(tmpdir(), 'sounds-'));
beforeAll(() => void vi.stubEnv('WABISABI_DATA', data));
afterAll(() => {
  vi.unstubAllEnvs();
  rmSync(data, { recursive: true, force: true });
});

async function brought(project: string) {
  const id = await importPath(project, 'demo/sounds/shutter.flac');
  await runImport(id);
  return (await db().query.imports.findFirst({ where: eq(tables.imports.id, id) }))!;
}

it('a sound is brought in beside the clips, once', async () => {
  const project = await aProject();
  expect(await brought(project)).toMatchObject({ state: 'done', error: null, clipId: null });
  const [sound, ...others] = await soundsOf(project);
  expect(others).toEqual([]);
  expect(sound).toMatchObject({ name: 'shutter', channels: 1, samples: 16_800 });
  expect(existsSync(inSound(sound!.hash, SAMPLES_FILE))).toBe(true);
  expect(existsSync(inSound(sound!.hash, 'original.flac'))).toBe(true);
  expect((await brought(project)).error).toBe('the same file is here already, as "shutter"');
  expect(await soundsOf(project)).toHaveLength(1);
});
it('it is renamed, taken away and put back', async () => {
  const project = await aProject();
  await brought(project);
  const { id } = (await soundsOf(project))[0]!;
  expect(await changeSound(id, { name: 'click' })).toBe(true);
  expect(await changeSound(id, { removed: true })).toBe(true);
  expect(await soundsOf(project)).toEqual([]);
  expect(await changeSound(id, { removed: false })).toBe(true);
  expect((await soundsOf(project)).map((s) => s.name)).toEqual(['click']);
  expect(await changeSound(NOT_THERE, { name: 'x' })).toBe(false);
});
it('a copy of a project has its sounds, but for those taken away', async () => {
  const project = await aProject();
  await brought(project);
  const copy = (await copyProject(project))!;
  expect((await soundsOf(copy)).map((s) => s.name)).toEqual(['shutter']);
  await changeSound((await soundsOf(copy))[0]!.id, { removed: true });
  expect(await soundsOf((await copyProject(copy))!)).toEqual([]);
  expect(await soundsOf(project)).toHaveLength(1);
});
