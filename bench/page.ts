/**
 * How long after a slider moves the hero (960×540) and six companions (480×270) show it: Soft Lens, in Debian's headless
 * Chromium without a GPU. Each measurement moves the slider by script and waits for the pictures on their canvases.
 */
import { chromium, type Page } from '@playwright/test';
import { cpus } from 'node:os';
import { readFileSync } from 'node:fs';

const BASE = process.env['BASE']!;
const CLIPS = ['rain-window', 'deck-dancer', 'lighthouse-turn', 'pier-walk', 'coast-van', 'gulls', 'kelp'];
const MOVES = 30;

const api = async <T>(method: string, path: string, data?: unknown): Promise<T> => {
  const answer = await fetch(BASE + path, {
    method,
    ...(data !== undefined && { body: JSON.stringify(data), headers: { 'content-type': 'application/json' } }),
  });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
};

async function bringIn(project: string): Promise<string[]> {
  for (const name of CLIPS) {
    const { id } = await api<{ id: string }>('POST', `/api/projects/${project}/imports`, { name, files: [`${name}.mp4`] });
    await fetch(`${BASE}/api/imports/${id}/0`, { method: 'PUT', body: readFileSync(`demo/footage/${name}.mp4`) });
    await api('POST', `/api/imports/${id}`);
  }
  for (;;) {
    const { clips } = await api<{ clips: { id: string }[] }>('GET', `/api/projects/${project}`);
    if (clips.length === CLIPS.length) return clips.map((c) => c.id);
    await new Promise((r) => setTimeout(r, 500));
  }
}

interface Times {
  hero: number[];
  companions: number[];
  longest: number;
}

/** Moves one dial many times in the page, and takes the times; also the longest the page itself was held up. */
const measured = (page: Page, dial: string): Promise<Times> =>
  page.evaluate(
    async ([label, moves]) => {
      const slider = document.querySelector<HTMLInputElement>(`input[type=range][aria-label="${label}"]`)!;
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
      const serial = (c: HTMLCanvasElement) => Number(c.dataset['serial'] ?? 0);
      const hero = document.querySelector<HTMLCanvasElement>('canvas[data-view="hero"]')!;
      const others = [...document.querySelectorAll<HTMLCanvasElement>('canvas[data-view^="companion:"]')];
      const times: Times = { hero: [], companions: [], longest: 0 };
      let last = performance.now(),
        watching = true;
      const watch = () => {
        const now = performance.now();
        times.longest = Math.max(times.longest, now - last);
        last = now;
        if (watching) setTimeout(watch, 0);
      };
      watch();
      for (let i = 0; i < (moves as number); i++) {
        const before = Math.max(serial(hero), ...others.map(serial));
        const began = performance.now();
        set.call(slider, String(20 + ((i * 37) % 60)));
        slider.dispatchEvent(new Event('input', { bubbles: true }));
        let heroAt = 0;
        for (;;) {
          await new Promise((r) => setTimeout(r, 0));
          if (!heroAt && serial(hero) > before) heroAt = performance.now() - began;
          if (heroAt && others.every((c) => serial(c) > before)) break;
          if (performance.now() - began > 5000) throw new Error('the pictures did not come');
        }
        times.hero.push(heroAt);
        times.companions.push(performance.now() - began);
        await new Promise((r) => setTimeout(r, 400)); // the strata's small pictures
      }
      watching = false;
      return times;
    },
    [dial, MOVES] as const,
  );

const share = (v: readonly number[], s: number): string =>
  `${[...v].sort((a, b) => a - b)[Math.min(v.length - 1, Math.floor(v.length * s))]!.toFixed(0)} ms`;

async function main(): Promise<void> {
  console.log(`${cpus()[0]!.model}, ${cpus().length} cores`);
  const { id: project } = await api<{ id: string }>('POST', '/api/projects', { name: 'Bench', width: 1920, height: 1080, rateNum: 25, rateDen: 1 });
  const { lookId } = await api<{ lookId: string }>('POST', '/api/looks', {
    document: JSON.parse(readFileSync('core/look/shipped/soft-lens.json', 'utf8')) as unknown,
  });
  const clips = await bringIn(project);
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (f) => f'); // the TypeScript runner names functions with it
  await page.goto(`${BASE}/p/${project}/bench?look=${lookId}`);
  await page.waitForSelector('canvas[data-view="hero"][data-exact="true"]', { timeout: 60_000 });
  await page.waitForFunction(() => document.querySelectorAll('canvas[data-view^="companion:"][data-serial]').length === 6, undefined, {
    timeout: 60_000,
  });
  await measured(page, 'Bloom'); // kernels warm up
  console.log('\nSoft Lens, from the slider to the picture: median / 95th percentile');
  const line = (what: string, t: Times) =>
    console.log(
      `${what.padEnd(40)} hero ${share(t.hero, 0.5)} / ${share(t.hero, 0.95)}   companions ${share(t.companions, 0.5)} / ${share(t.companions, 0.95)}   page held up ${t.longest.toFixed(0)} ms at most`,
    );
  for (const dial of ['Bloom', 'Age', 'Frame']) line(dial, await measured(page, dial));
  await api('POST', `/api/projects/${project}/deliveries`, { clips, format: 'mkv', width: 1920, height: 1080 });
  await new Promise((r) => setTimeout(r, 3000));
  line('Bloom, a render running beside it', await measured(page, 'Bloom'));
  await browser.close();
}
await main();
