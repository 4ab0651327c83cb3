/**
 * Measures the time from a slider's move until the hero (960×540) and six companions (480×270) show
 * it: Soft Lens, in Debian's headless Chromium without a GPU. A script moves the slider and waits
 * for the pictures on their canvases.
 */
import type { Page } from '@playwright/test';
import { cpus } from 'node:os';
import { readFileSync } from 'node:fs';
import { api, BASE, both, bringIn, browsing, stolen } from './browsing';

const CLIPS = [
  'rain-window',
  'deck-dancer',
  'lighthouse-turn',
  'pier-walk',
  'coast-van',
  'gulls',
  'kelp',
];
const MOVES = 40;

interface Times {
  readonly hero: number[];
  /** Time until the hero's picture is exact. */
  readonly exact: number[];
  readonly companions: number[];
  /** The engine's part of the hero's time: from the graph to the bitmap. */
  readonly engine: number[];
  /** Moves during which the hypervisor took a core away (10 ms and more of stolen time). */
  readonly robbed: boolean[];
  longest: number;
}

/**
 * Moves a dial once by script and waits for hero and companions; also measures the longest block of
 * the page's thread.
 */
const moved = (
  page: Page,
  label: string,
  to: number,
): Promise<{ hero: number; exact: number; companions: number; engine: number; longest: number }> =>
  page.evaluate(
    async ([dial, value]) => {
      const slider = document.querySelector<HTMLInputElement>(
        `input[type=range][aria-label="${dial}"]`,
      )!;
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
      const serial = (c: HTMLCanvasElement) => Number(c.dataset['serial'] ?? 0);
      const hero = document.querySelector<HTMLCanvasElement>('canvas[data-view="hero"]')!;
      const others = [
        ...document.querySelectorAll<HTMLCanvasElement>('canvas[data-view^="companion:"]'),
      ];
      const before = Math.max(serial(hero), ...others.map(serial));
      const began = performance.now();
      let heroAt = 0,
        exactAt = 0,
        engine = 0,
        longest = 0,
        last = began;
      // The delay of a 20 ms timer tells how long the page's thread was blocked.
      const pulse = setInterval(() => {
        const now = performance.now();
        longest = Math.max(longest, now - last - 20);
        last = now;
      }, 20);
      const done = new Promise<number>((resolve, reject) => {
        const look = () => {
          if (!heroAt && serial(hero) > before) {
            heroAt = performance.now() - began;
            engine = Number(hero.dataset['milliseconds']);
          }
          if (heroAt && !exactAt && hero.dataset['exact'] === 'true')
            exactAt = performance.now() - began;
          if (exactAt && others.every((c) => serial(c) > before))
            resolve(performance.now() - began);
        };
        const watch = new MutationObserver(look);
        for (const c of [hero, ...others]) watch.observe(c, { attributeFilter: ['data-serial'] });
        setTimeout(() => reject(new Error('the pictures did not come within a minute')), 60_000);
      });
      slider.step = 'any';
      set.call(slider, String(value));
      slider.dispatchEvent(new Event('input', { bubbles: true }));
      const companions = await done;
      clearInterval(pulse);
      return { hero: heroAt, exact: exactAt, companions, engine, longest };
    },
    [label, to] as const,
  );

let runs = 0;
/** One drag: many moves of a dial, each `pause` ms after the pictures of the previous one. */
async function measured(page: Page, dial: string, pause: number): Promise<Times> {
  // No run uses the values of another, because cached pictures would be found.
  const apart = runs++ / 64;
  const times: Times = { hero: [], exact: [], companions: [], engine: [], robbed: [], longest: 0 };
  for (let i = 0; i < MOVES; i++) {
    const before = stolen();
    const { hero, exact, companions, engine, longest } = await moved(
      page,
      dial,
      20 + apart + ((i * 37) % 60),
    );
    times.robbed.push(stolen() > before);
    times.hero.push(hero);
    times.exact.push(exact);
    times.companions.push(companions);
    times.engine.push(engine);
    times.longest = Math.max(times.longest, longest);
    await new Promise((r) => setTimeout(r, pause));
  }
  return times;
}

function report(what: string, t: Times): void {
  const left = (v: readonly number[]) => v.filter((_, i) => !t.robbed[i]);
  console.log(
    `${what.padEnd(34)} hero ${both(t.hero)} exact ${both(t.exact)} (engine ${both(t.engine)}) companions ${both(t.companions)} | undisturbed (${left(t.hero).length} of ${MOVES}): hero ${both(left(t.hero))} companions ${both(left(t.companions))} | page held up ${t.longest.toFixed(0)} ms`,
  );
}

/** Twelve steps, with a dial on the first: everything above it is recomputed. */
const twelveSteps = (): object => {
  const steps: [string, Record<string, unknown>][] = [
    ['exposure', { stops: { dial: 'push', from: -1, to: 1 } }],
    ['white-balance', { temperature: { value: 12 } }],
    ['contrast', { amount: { value: 15 } }],
    ['tone-ranges', { shadows: { value: 20 }, highlights: { value: -15 } }],
    ['three-way', { 'lift-blue': { value: 6 }, 'gain-red': { value: 4 } }],
    [
      'tone-curves',
      {
        all: {
          value: [
            [0, 0.02],
            [0.5, 0.52],
            [1, 0.97],
          ],
        },
      },
    ],
    ['saturation', { amount: { value: 85 } }],
    ['vibrance', { amount: { value: 25 } }],
    ['hue-bands', { 'blue-saturation': { value: -30 } }],
    ['tone-tint', { amount: { value: 30 } }],
    ['vignette', { stops: { value: -0.8 } }],
    ['grain', { amount: { value: 8 } }],
  ];
  return {
    schema: 2,
    name: 'Twelve steps',
    seed: 7,
    bedrock: true,
    dials: [
      {
        key: 'strength',
        label: 'Strength',
        kind: 'number',
        min: 0,
        max: 100,
        unit: '%',
        value: 100,
      },
      { key: 'push', label: 'Push', kind: 'number', min: 0, max: 100, unit: '%', value: 50 },
    ],
    layers: [
      {
        key: 'grade',
        name: 'grade',
        on: true,
        source: 'clip',
        blend: 'normal',
        opacity: { value: 100 },
        steps: steps.map(([step, parameters]) => ({
          key: step,
          step,
          on: true,
          mix: { value: 100 },
          parameters,
        })),
      },
    ],
  };
};

/**
 * Lines of light with a trail of eight and a glow over the clip; dials before the trail, in it, and
 * after it.
 */
const trailOfEight = (): object => {
  const dial = (key: string, label: string): object => ({
    key,
    label,
    kind: 'number',
    min: 0,
    max: 100,
    unit: '%',
    value: 50,
  });
  const use = (step: string, parameters: object): object => ({
    key: step,
    step,
    on: true,
    mix: { value: 100 },
    parameters,
  });
  return {
    schema: 3,
    name: 'Trail of eight',
    seed: 7,
    bedrock: true,
    dials: [
      { ...dial('strength', 'Strength'), value: 100 },
      dial('lines', 'Lines'),
      dial('left', 'Left'),
      dial('shine', 'Shine'),
    ],
    layers: [
      {
        key: 'light',
        name: 'light',
        on: true,
        source: 'clip',
        blend: 'add-light',
        opacity: { value: 100 },
        steps: [
          use('contour', { thickness: { dial: 'lines', from: 2, to: 8 } }),
          use('trail', { count: { value: 8 }, fade: { dial: 'left', from: 60, to: 95 } }),
          use('glow', { radius: { value: 40 }, amount: { dial: 'shine', from: 20, to: 150 } }),
        ],
      },
    ],
  };
};

/** The Bench with a look, with all pictures shown. */
async function opened(page: Page, project: string, lookId: string): Promise<void> {
  await page.goto(`${BASE}/p/${project}/bench?look=${lookId}`);
  await page.waitForSelector('canvas[data-view="hero"][data-exact="true"]', { timeout: 60_000 });
  await page.waitForFunction(
    () => document.querySelectorAll('canvas[data-view^="companion:"][data-serial]').length === 6,
    undefined,
    {
      timeout: 60_000,
    },
  );
}

async function main(): Promise<void> {
  console.log(`${cpus()[0]!.model}, ${cpus().length} cores`);
  const { id: project } = await api<{ id: string }>('POST', '/api/projects', {
    name: 'Bench',
    width: 1920,
    height: 1080,
    rateNum: 25,
    rateDen: 1,
  });
  const { lookId } = await api<{ lookId: string }>('POST', '/api/looks', {
    document: JSON.parse(readFileSync('core/look/shipped/soft-lens.json', 'utf8')) as unknown,
  });
  const clips = await bringIn(
    project,
    CLIPS.map((name) => `demo/footage/${name}.mp4`),
  );
  const { browser, page } = await browsing();
  const wanted = process.argv.slice(2);
  const asked = (part: string): boolean => wanted.length === 0 || wanted.includes(part);
  const look = async (document: object): Promise<void> => {
    const made = await api<{ lookId: string }>('POST', '/api/looks', { document });
    await opened(page, project, made.lookId);
  };
  await opened(page, project, lookId);
  await measured(page, 'Bloom', 30); // kernels warm up
  await measured(page, 'Age', 30);
  console.log('\nFrom the slider to the picture: median / 95th percentile');
  if (asked('soft-lens')) {
    for (const dial of ['Bloom', 'Age', 'Frame'])
      report(`${dial}, dragged`, await measured(page, dial, 30));
    report('Bloom, single moves at rest', await measured(page, 'Bloom', 500));
  }
  if (asked('steps')) {
    await look(twelveSteps());
    await measured(page, 'Push', 30);
    report('Twelve steps, dragged', await measured(page, 'Push', 30));
  }
  for (const [file, dials] of [
    ['ferrous', ['Warmth', 'Halation', 'Grain', 'Weave']],
    ['third-dub', ['Noise', 'Chroma', 'Tracking']],
  ] as const) {
    if (!asked(file)) continue;
    const document = JSON.parse(readFileSync(`core/look/shipped/${file}.json`, 'utf8')) as {
      name: string;
    };
    await look(document);
    for (const dial of dials) await measured(page, dial, 30);
    for (const dial of dials)
      report(`${document.name}: ${dial}, dragged`, await measured(page, dial, 30));
  }
  if (asked('trail')) {
    await look(trailOfEight());
    // Far enough into the clip for all eight copies.
    await page.getByRole('slider', { name: 'Frame' }).focus();
    for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(3000);
    await measured(page, 'Left', 30);
    for (const dial of ['Lines', 'Left', 'Shine'])
      report(`Trail of eight: ${dial}, dragged`, await measured(page, dial, 30));
    for (const dial of ['Lines', 'Left', 'Shine'])
      report(`Trail of eight: ${dial}, at rest`, await measured(page, dial, 1500));
  }
  if (asked('render')) {
    await opened(page, project, lookId);
    await measured(page, 'Bloom', 30);
    await api('POST', `/api/projects/${project}/deliveries`, {
      clips,
      format: 'mkv',
      width: 1920,
      height: 1080,
    });
    await new Promise((r) => setTimeout(r, 3000));
    report('Bloom, dragged, a render beside it', await measured(page, 'Bloom', 30));
  }
  await browser.close();
}
await main();
