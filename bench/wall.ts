/**
 * The Wall with a hundred clips that follow one colour look (Silt), in Debian's headless Chromium
 * without a GPU: how long after a dial moves the first tile in sight shows it, and the last; and
 * what scrolling through all of them costs the page.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { api, BASE, both, bringIn, browsing, stolen } from './browsing';
import { pick } from '../e2e/pick';

const SOURCES = [
  'rain-window',
  'deck-dancer',
  'lighthouse-turn',
  'coast-van',
  'gulls',
  'kelp',
  'skyline',
];
const CLIPS = 100,
  MOVES = 40;

/** Short cuts out of the demo's footage, each a file of its own. */
function cuts(folder: string): string[] {
  return Array.from({ length: CLIPS }, (_, i) => {
    const source = SOURCES[i % SOURCES.length]!,
      file = join(folder, `cut-${String(i).padStart(3, '0')}.mp4`);
    const from = (Math.floor(i / SOURCES.length) * 0.12).toFixed(2);
    const made = [
      '-v',
      'error',
      '-ss',
      from,
      '-i',
      `demo/footage/${source}.mp4`,
      '-t',
      '0.6',
      '-vf',
      'scale=960:540',
      '-an',
      '-crf',
      '20',
      file,
    ];
    execFileSync('ffmpeg', made);
    return file;
  });
}

/** Moves a dial of the Wall by script and waits for every tile in sight. */
const moved = (
  page: Page,
  dial: string,
  to: number,
): Promise<{ first: number; last: number; tiles: number; longest: number }> =>
  page.evaluate(
    async ([label, value]) => {
      const slider = document.querySelector<HTMLInputElement>(
        `aside input[type=range][aria-label="${label}"]`,
      )!;
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
      const area = document.querySelector('[aria-label="Tiles"]')!.getBoundingClientRect();
      const tiles = [
        ...document.querySelectorAll<HTMLCanvasElement>('canvas[data-view^="tile:"]'),
      ].filter((c) => {
        const r = c.getBoundingClientRect();
        return r.bottom > area.top && r.top < area.bottom;
      });
      const serial = (c: HTMLCanvasElement) => Number(c.dataset['serial'] ?? 0);
      const before = Math.max(...tiles.map(serial));
      const began = performance.now();
      let first = 0,
        longest = 0,
        tick = began;
      const pulse = setInterval(() => {
        const now = performance.now();
        longest = Math.max(longest, now - tick - 20);
        tick = now;
      }, 20);
      const all = new Promise<number>((resolve, reject) => {
        const look = () => {
          if (!first && tiles.some((c) => serial(c) > before)) first = performance.now() - began;
          if (tiles.every((c) => serial(c) > before)) resolve(performance.now() - began);
        };
        const watch = new MutationObserver(look);
        for (const c of tiles) watch.observe(c, { attributeFilter: ['data-serial'] });
        setTimeout(() => reject(new Error('the tiles did not come within a minute')), 60_000);
      });
      set.call(slider, String(value));
      slider.dispatchEvent(new Event('input', { bubbles: true }));
      const last = await all;
      clearInterval(pulse);
      return { first, last, tiles: tiles.length, longest };
    },
    [dial, to] as const,
  );

async function dragged(page: Page, dial: string, what: string): Promise<void> {
  const times: { first: number; last: number; tiles: number; longest: number; robbed: boolean }[] =
    [];
  for (let i = 0; i < MOVES; i++) {
    const before = stolen();
    const took = await moved(page, dial, 20 + ((i * 37) % 60));
    times.push({ ...took, robbed: stolen() > before });
  }
  const quiet = times.filter((t) => !t.robbed);
  const said = (t: typeof times) =>
    `first ${both(t.map((x) => x.first))} all ${both(t.map((x) => x.last))}`;
  const held = Math.max(...times.map((t) => t.longest)).toFixed(0);
  console.log(
    `${what.padEnd(34)} ${times[0]!.tiles} tiles: ${said(times)} | undisturbed (${quiet.length}): ${said(quiet)} | page held up ${held} ms`,
  );
}

/** The times between frames while the Wall scrolls from end to end. */
const scrolled = (page: Page): Promise<number[]> =>
  page.evaluate(
    () =>
      new Promise<number[]>((resolve) => {
        const area = document.querySelector('[aria-label="Tiles"]')!;
        const gaps: number[] = [];
        let last = performance.now();
        const frame = () => {
          const now = performance.now();
          gaps.push(now - last);
          last = now;
          const before = area.scrollTop;
          area.scrollTop += 40;
          if (area.scrollTop === before) resolve(gaps.slice(1));
          else requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
  );

async function main(): Promise<void> {
  console.log(`${cpus()[0]!.model}, ${cpus().length} cores`);
  const folder = mkdtempSync(join(tmpdir(), 'wabisabi-wall-'));
  const files = cuts(folder);
  const { id: project } = await api<{ id: string }>('POST', '/api/projects', {
    name: 'Wall',
    width: 1920,
    height: 1080,
    rateNum: 25,
    rateDen: 1,
  });
  const { versionId } = await api<{ versionId: string }>('POST', '/api/looks', {
    document: JSON.parse(readFileSync('core/look/shipped/silt.json', 'utf8')) as unknown,
  });
  const clips = await bringIn(project, files);
  rmSync(folder, { recursive: true });
  await api('POST', `/api/projects/${project}/clips`, {
    clips: clips.map((clip) => ({ clip, was: { version: null }, to: { version: versionId } })),
  });
  const { browser, page } = await browsing();
  await page.goto(`${BASE}/p/${project}/wall`);
  await page.waitForSelector('canvas[data-view^="tile:"][data-serial]', { timeout: 60_000 });
  await page.getByRole('button', { name: 'dials' }).click();
  await page.waitForTimeout(20_000); // every tile is drawn once
  console.log(
    '\nSilt on a hundred clips, from the dial to the tiles in sight: median / 95th percentile',
  );
  await dragged(page, 'Depth', 'warming up');
  for (const dial of ['Depth', 'Drain', 'Cold'])
    await dragged(page, dial, `${dial}, dragged, medium tiles`);
  await pick(page.getByRole('combobox', { name: 'tile size' }), 'contact sheet');
  await page.waitForTimeout(3000);
  await dragged(page, 'Depth', 'Depth, dragged, contact sheet');
  await pick(page.getByRole('combobox', { name: 'tile size' }), 'large');
  const gaps = await scrolled(page);
  console.log(`scrolling through all, large tiles: ${gaps.length} frames, ${both(gaps)}`);
  await browser.close();
}

await main();
