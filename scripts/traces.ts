/**
 * `npm run traces [-- clip …]`: follows every truth point of the demo's clips from the frame in
 * which it is seen, both ways, and prints how far what is found lies from the truth.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type FollowedSpot, followed, type Sizes, sizesOf } from '../core/trace';
import { frames } from '../server/media/decode';
import { leave, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';

interface Truth {
  readonly size: readonly [number, number];
  readonly seenIn: number;
  readonly points: readonly {
    readonly object: number;
    readonly name?: string;
    readonly way: readonly (readonly [number, number, number])[];
  }[];
}
const only = process.argv.slice(2);
const names = readdirSync('demo/truth')
  .filter((f) => f.endsWith('.points.json'))
  .map((f) => f.replace('.points.json', ''))
  .filter((n) => only.length === 0 || only.includes(n));

interface Count {
  seen: number;
  sure: number;
  unsure: number;
  within1: number;
  within25: number;
  beyond8: number;
  hidden: number;
  hiddenSure: number;
}
const none = (): Count => ({
  seen: 0,
  sure: 0,
  unsure: 0,
  within1: 0,
  within25: 0,
  beyond8: 0,
  hidden: 0,
  hiddenSure: 0,
});
const total = none();
const share = (n: number, of: number): string =>
  of === 0 ? '–' : `${((100 * n) / of).toFixed(1)} %`;
const line = (name: string, c: Count, more = ''): void =>
  console.log(
    `${name.padEnd(26)} sure ${share(c.sure, c.seen).padStart(7)}  within 1 px ${share(c.within1, c.sure).padStart(7)}  2.5 px ${share(c.within25, c.sure).padStart(7)}  beyond 8 px ${share(c.beyond8, c.sure).padStart(6)}  hidden sure ${share(c.hiddenSure, c.hidden).padStart(6)} ${more}`,
  );

for (const name of names) {
  const truth = JSON.parse(
    readFileSync(join('demo/truth', `${name}.points.json`), 'utf8'),
  ) as Truth;
  const file = join('demo/footage', `${name}.mp4`);
  const place = await placeOf(file, {});
  const facts = await probe(file, { place });
  const all: Sizes[] = [];
  for await (const raw of frames(place, facts, 0, facts.frames - 1)) all.push(sizesOf(raw));
  const count = none();
  const began = performance.now();
  const first = truth.seenIn;
  for (const { object, name: own, way } of truth.points) {
    const at = { x: way[first]![0], y: way[first]![1] };
    const { level } = followed(all[first]!, at),
      c = none();
    for (const by of [1, -1]) {
      const follower = followed(all[first]!, at);
      for (let f = first + by; f >= 0 && f < all.length; f += by) {
        const found: FollowedSpot | undefined = follower.next(all[f]!);
        const [x, y, seen] = way[f]!;
        const sure = found?.sure === 1;
        if (!seen) {
          c.hidden++;
          if (sure) c.hiddenSure++;
          continue;
        }
        c.seen++;
        if (found && !sure) c.unsure++;
        if (!sure) continue;
        c.sure++;
        const off = Math.hypot(found.x - x, found.y - y);
        if (off <= 1) c.within1++;
        if (off <= 2.5) c.within25++;
        if (off > 8) c.beyond8++;
      }
    }
    if (only.length > 0)
      line(
        `  ${own ?? object} ${at.x.toFixed(0)} ${at.y.toFixed(0)}${level === undefined ? ' bare' : level > 0 ? ` at 1/${2 ** level}` : ''}`,
        c,
      );
    for (const k of Object.keys(c) as (keyof Count)[]) {
      count[k] += c[k];
      total[k] += c[k];
    }
  }
  line(
    name,
    count,
    `${((performance.now() - began) / truth.points.length / all.length).toFixed(1)} ms a point and frame`,
  );
  await leave(place);
}
line('all', total);
