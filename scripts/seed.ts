/**
 * Loads the demo scenario into an empty database: the project, its clips, the shipped looks. A
 * second run does nothing.
 */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { type ClipDecisions, type ClipPins, countedBy, SHIPPED, SHIPPED_PIECES } from '../core';
import { demoCut } from '../demo/cut';
import { editClips } from '../server/clips/clips';
import { saveCut } from '../server/cuts/cuts';
import { closeDatabase, db, tables } from '../server/database';
import { stopQueue } from '../server/jobs/queue';
import { importPath } from '../server/footage/imports';
import { makeLook } from '../server/looks/versions';
import { makeProject } from '../server/projects/projects';
import { changeSound, soundsOf } from '../server/sounds/sounds';
import { keepPiece } from '../server/looks/pieces';
import { settings } from '../server/config/settings';

const { imports, clips } = tables;
const NAME = 'Harbour Static';

async function seed(): Promise<void> {
  if (await db().query.projects.findFirst()) return;
  console.log('loading the demo project');
  const project = await makeProject(NAME, 1920, 1080, [25, 1]);
  const versions = new Map<string, string>();
  for (const { id, look } of SHIPPED) versions.set(id, (await makeLook(look)).versionId);
  for (const piece of SHIPPED_PIECES) await keepPiece(piece);
  const filesOf = (folder: string) =>
    readdirSync(join(settings().root, folder))
      .sort()
      .map((file) => join(settings().root, folder, file));
  for (const file of filesOf('demo/footage')) await importPath(project, file);
  for (const file of filesOf('demo/plates')) await importPath(project, file, 'plate');
  for (const file of filesOf('demo/sounds')) await importPath(project, file);
  // A figure's matte, to be laid under a look as a file.
  await importPath(project, join(settings().root, 'demo/truth/deck-dancer.matte.mp4'), 'plate');
  for (;;) {
    const all = await db().select().from(imports).where(eq(imports.projectId, project));
    const failed = all.find((i) => i.state === 'failed');
    if (failed) throw new Error(`${failed.name}: ${failed.error}`);
    const done = all.filter((i) => i.state === 'done').length;
    if (process.stdout.isTTY) process.stdout.write(`\r${done} of ${all.length} files are in `);
    if (done === all.length) break;
    await new Promise((r) => setTimeout(r, 500));
  }
  // The song's beats are found at twice their number, with its eighths.
  const song = (await soundsOf(project)).find((s) => s.name === 'harbour-static')!;
  await changeSound(song.id, { beats: countedBy(song.beats, song.said, 'half') });
  const rows = await db().select().from(clips).where(eq(clips.projectId, project));
  const named = (name: string) => rows.find((c) => c.name === name)!.id;
  // Log footage is not tagged as such: the colourist says what it is.
  await editClips(project, [
    {
      clip: named('pier-walk'),
      was: { encoding: rows.find((c) => c.name === 'pier-walk')!.decided.encoding },
      to: { encoding: 'acescct' },
    },
  ]);
  const put = (look: string, ...names: string[]) =>
    editClips(
      project,
      rows
        .filter((c) => names.includes(c.name))
        .map((c) => ({ clip: c.id, was: { version: null }, to: { version: versions.get(look)! } })),
    );
  await put('soft-lens', 'rain-window', 'lighthouse-turn', 'singer-close');
  await put('ferrous', 'radio-dial');
  await put('attic-reel', 'coast-van');
  await put('third-dub', 'floor-tom');
  await put('late-gold', 'gulls', 'pier-walk');
  await put('folded-harbour', 'skyline');
  await put('two-shores', 'white-room');
  await put('signal-figure', 'deck-dancer');
  await put('contour-lamp', 'kelp');
  const hashOf = (name: string) => rows.find((c) => c.name === name)!.hash;
  const edit = (name: string, to: Partial<ClipDecisions>, was: Partial<ClipDecisions>) =>
    editClips(project, [{ clip: named(name), was, to }]);
  const pin = (name: string, pins: ClipPins) => edit(name, { pins }, { pins: {} });
  const figure = [{ hash: hashOf('deck-dancer.matte'), start: 0, speed: 1 }];
  await pin('deck-dancer', {
    figure,
    subject: figure,
    heart: [{ x: 0.51, y: 0.42 }],
    strike: [{ frame: 28 }],
    slow: [{ frame: 30 }],
    steps: [{ frame: 20 }, { frame: 32 }, { frame: 44 }],
    in: [{ frame: 24 }],
    out: [{ frame: 70 }],
  });
  await pin('white-room', { second: [{ hash: hashOf('skyline'), start: 10, speed: 1 }] });
  await pin('gulls', { sun: [{ x: 0.3, y: 0.4 }] });
  await pin('pier-walk', { sun: [{ x: 0.72, y: 0.2 }] });
  await pin('kelp', { strike: [{ frame: 30 }], heart: [{ x: 0.72, y: 0.42 }] });
  const heard = await soundsOf(project);
  await saveCut(
    project,
    demoCut(named, (name) => heard.find((s) => s.name === name)!),
    0,
  );
}

await seed();
await stopQueue();
await closeDatabase();
