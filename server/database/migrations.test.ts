/** Databases of earlier releases: what they hold is what it was after they are brought up to date. */
import { randomUUID } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { afterEach, beforeEach, expect, inject, it } from 'vitest';
import { itemSubject, keptDecisions } from './columns';

const FOLDER = join(import.meta.dirname, 'migrations');
let name: string, url: string, early: string;
const onServer = async (statement: string): Promise<void> => {
  const client = new pg.Client({ connectionString: inject('template') });
  await client.connect();
  await client.query(statement).finally(() => client.end());
};
beforeEach(async () => {
  name = `early_${randomUUID().replaceAll('-', '')}`;
  const address = new URL(inject('template'));
  address.pathname = `/${name}`;
  url = address.href;
  early = mkdtempSync(join(tmpdir(), 'wabisabi-early-'));
  await onServer(`create database ${name}`);
});
afterEach(async () => {
  await onServer(`drop database ${name} with (force)`);
  rmSync(early, { recursive: true, force: true });
});

/** The migrations up to one of them. */
function upTo(last: number): string {
  cpSync(FOLDER, early, { recursive: true });
  const file = join(early, 'meta/_journal.json');
  const journal = JSON.parse(readFileSync(file, 'utf8')) as { entries: { idx: number }[] };
  journal.entries = journal.entries.filter((e) => e.idx <= last);
  writeFileSync(file, JSON.stringify(journal));
  return early;
}

it('decisions about clips that had a column each are one, with their values', async () => {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const database = drizzle(client);
    await migrate(database, { migrationsFolder: upTo(28) });
    const [project, plain, full, delivery] = [1, 2, 3, 4].map(() => randomUUID());
    const balance = { slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 };
    const pins = { hit: [{ frame: 3 }] };
    await client.query(`
      insert into projects (id, name, width, height, rate_num, rate_den)
        values ('${project}', 'P', 8, 8, 25, 1);
      insert into footage (hash, name, bytes, file, facts) values ('ab', 'a', 1, 'a', '{}');
      insert into clips (id, project_id, hash, name, place, encoding)
        values ('${plain}', '${project}', 'ab', 'plain', 1, 'srgb');
      insert into clips (id, project_id, hash, name, place, encoding, fit, role, follows, status,
          note, scene, in_out, balance, pins, cuts_said)
        values ('${full}', '${project}', 'ab', 'full', 2, 'pq', 'fill', 'plate', false, 'agreed',
          'seen', 'pier', '{"in":4,"out":9}', '${JSON.stringify(balance)}',
          '${JSON.stringify(pins)}', '{"7":"cut"}');
      insert into deliveries (id, project_id, format, width, height)
        values ('${delivery}', '${project}', 'mp4', 8, 8);
      insert into delivery_items (delivery_id, clip_name, hash, encoding, fit, cuts, pins, frames, beside)
        values ('${delivery}', 'full', 'ab', 'pq', 'fill', '[7]', '${JSON.stringify(pins)}', 6,
          '{"hit":{"hash":"ab","encoding":"pq","fit":"fit","balance":null}}');`);
    await migrate(database, { migrationsFolder: FOLDER });
    const { rows } = await client.query<{ name: string; decided: object }>(
      'select name, decided from clips order by place',
    );
    expect(rows.map((r) => [r.name, keptDecisions(r.decided)])).toEqual([
      ['plain', keptDecisions({ encoding: 'srgb' })],
      [
        'full',
        keptDecisions({
          ...{ encoding: 'pq', fit: 'fill', role: 'plate', follows: false, status: 'agreed' },
          ...{ note: 'seen', scene: 'pier', inOut: { in: 4, out: 9 }, cutsSaid: { 7: 'cut' } },
          ...{ balance: balance as never, pins },
        }),
      ],
    ]);
    const items = await client.query<{ subject: never }>('select subject from delivery_items');
    expect(itemSubject(items.rows[0]!.subject)).toMatchObject({
      ...{ encoding: 'pq', fit: 'fill', cuts: [7], pins, inOut: null },
      beside: { hit: { hash: 'ab', encoding: 'pq', role: 'clip', plate: null } },
    });
  } finally {
    await client.end();
  }
});
