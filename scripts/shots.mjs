// npm run shots: pictures of the main views at 1280×800 for docs/screenshots, from the demo that
// runs on PORT (4321). `-- bench` takes that one alone.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

/** Opens a list of choices and takes one: by its id, or by its words. */
const pick = async (where, what) => {
  await where.click();
  const page = where.page();
  await (
    typeof what === 'string'
      ? page.locator(`[role="option"][data-value="${what}"]`)
      : page.getByRole('option', { name: what.label, exact: true })
  )
    .first()
    .click();
};

prepare({ browser: true });
const { chromium } = await import('@playwright/test');
const base = `http://127.0.0.1:${process.env.PORT ?? 4321}`;
const projects = await fetch(`${base}/api/projects`)
  .then((r) => r.json())
  .catch(() => {
    console.error('the demo does not answer: start it with npm run demo');
    process.exit(1);
  });
const { id } = projects.find((p) => p.name === 'Harbour Static');
const looks = await fetch(`${base}/api/looks`).then((r) => r.json());
const look = (name) => looks.find((l) => l.name === name).id;
const { clips } = await fetch(`${base}/api/projects/${id}`).then((r) => r.json());
const clip = (name) => clips.find((c) => c.name === name).id;

const to = join(root, 'docs/screenshots');
mkdirSync(to, { recursive: true });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  // Scroll bars are drawn, as most machines do.
  ignoreDefaultArgs: ['--hide-scrollbars'],
});
const wanted = process.argv.slice(2);
const shot = async (name, path, ready, act = async () => {}) => {
  if (wanted.length > 0 && !wanted.includes(name)) return;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(base + path);
  await page.waitForSelector(ready, { timeout: 60_000 });
  await act(page);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: join(to, `${name}.png`) });
  await page.close();
};
const exact = 'canvas[data-view="hero"][data-exact="true"]';
await shot('rushes', `/p/${id}/rushes`, 'button[aria-pressed]');
await shot('bench', `/p/${id}/bench?look=${look('Soft Lens')}`, exact, async (page) => {
  await page.keyboard.press('s');
});
/** Puts numbers beside places of the page, as the README's six ideas have them. */
const numbered = (page, places) =>
  page.evaluate((all) => {
    for (const [i, { left, top }] of all.entries()) {
      const mark = document.createElement('div');
      mark.textContent = String(i + 1);
      mark.style.cssText = `position:fixed;left:${left}px;top:${top}px;z-index:99;width:24px;height:24px;border-radius:12px;background:#f4e9cf;color:#222;font:600 14px/24px sans-serif;text-align:center;box-shadow:0 0 0 3px #000a`;
      document.body.append(mark);
    }
  }, places);
await shot(
  'bench-ideas',
  `/p/${id}/bench?look=${look('Contour Lamp')}&clip=${clip('kelp')}`,
  exact,
  async (page) => {
    const row = page.locator('button[aria-expanded]', { hasText: 'wide light' });
    await row.click();
    const places = [
      [page.locator('canvas[data-view="hero"]').first(), 0.5, 0.1],
      [page.locator('header').getByText('Contour Lamp').first(), 1.05, 0.5],
      [row, -0.6, 0.5],
      [page.getByText('+ step').first(), 1, 0.5],
      [page.getByText('Reach', { exact: true }).first(), -0.75, 0.5],
      [page.locator('input[value="Strike"]').first(), 0.8, 0.5],
    ];
    const at = [];
    for (const [where, x, y] of places) {
      const box = await where.boundingBox();
      at.push({ left: box.x + box.width * x, top: box.y + box.height * y - 12 });
    }
    await numbered(page, at);
  },
);
await shot(
  'bench-film',
  `/p/${id}/bench?look=${look('Ferrous')}&clip=${clip('radio-dial')}`,
  exact,
  async (page) => {
    const film = page.locator('[data-layer="film"]');
    await film.getByRole('button', { expanded: false }).first().click();
    await film.getByRole('button', { name: 'Film response', exact: true }).click();
    await page.waitForTimeout(1500);
  },
);
await shot(
  'bench-two-shores',
  `/p/${id}/bench?look=${look('Two Shores')}&clip=${clip('white-room')}`,
  exact,
  async (page) => {
    await page
      .getByRole('region', { name: 'Bedrock' })
      .getByRole('button', { name: /bedrock/ })
      .click();
    await pick(page.getByLabel('Look frame'), { label: 'four by three 4:3' });
    await page.getByRole('button', { name: 'centre', exact: true }).scrollIntoViewIfNeeded();
    await page.locator('[data-reframe] label').last().scrollIntoViewIfNeeded();
    await page.waitForTimeout(4000);
  },
);
await shot(
  'bench-mattes',
  `/p/${id}/bench?look=${look('Late Gold')}&clip=${clip('deck-dancer')}`,
  exact,
  async (page) => {
    await pick(page.getByLabel('Add a layer from'), 'below');
    const layer = page.locator('li[data-layer]').first();
    await pick(layer.getByLabel(/Add a step to/), 'invert');
    await pick(layer.getByLabel('Add a matte to layer'), 'path');
    await layer.getByRole('button', { name: 'draw', exact: true }).click();
    const { x, y, width, height } = await page.locator('canvas[data-view="hero"]').boundingBox();
    const outline = [
      [0.53, 0.26],
      [0.6, 0.3],
      [0.64, 0.45],
      [0.6, 0.83],
      [0.51, 0.84],
      [0.5, 0.58],
      [0.44, 0.48],
      [0.49, 0.4],
    ];
    for (const [u, v] of outline) await page.mouse.click(x + width * u, y + height * v);
    await page.keyboard.press('Escape');
    await layer.getByRole('button', { name: 'smooth' }).click();
    await page.waitForTimeout(4000);
  },
);
await shot('bench-scopes', `/p/${id}/bench?look=${look('Soft Lens')}`, exact, async (page) => {
  await page.keyboard.press('o');
  await page.waitForSelector('[aria-label="Scopes"][data-ready="true"]');
  const { x, y, width, height } = await page.locator('canvas[data-view="hero"]').boundingBox();
  await page.mouse.move(x + width * 0.52, y + height * 0.4);
});
await shot('bench-colour', `/p/${id}/bench?look=${look('Silt')}`, exact, async (page) => {
  const layer = page.locator('li[data-layer]').first();
  await layer.getByRole('button', { expanded: false }).first().click();
  for (const step of ['three-way', 'lut', 'cdl'])
    await pick(layer.getByLabel(/Add a step to/), step);
  await page.getByRole('slider', { name: 'Lift wheel' }).focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
});
// Traces of their own for this picture; they go again with their pin.
const singer = clip('singer-close');
const asked = (method, url, value) =>
  fetch(`${base}${url}`, {
    method,
    headers: { 'content-type': 'application/json', origin: base },
    ...(value && { body: JSON.stringify(value) }),
  }).then((r) => r.json());
if (wanted.length === 0 || wanted.includes('bench-trace')) {
  const eyes = [];
  for (const [name, x] of [
    ['Left eye', 0.385],
    ['Right eye', 0.515],
  ])
    eyes.push(
      await asked('POST', `/api/clips/${singer}/traces`, {
        name,
        kind: 'oval',
        follow: true,
        marks: [{ frame: 32, x, y: 0.385, rx: 0.054, ry: 0.024, turn: 0 }],
      }),
    );
  await asked('POST', `/api/projects/${id}/clips`, {
    clips: [
      {
        clip: singer,
        was: { pins: {} },
        to: { pins: { eyes: eyes.map((e) => ({ trace: e.id })) } },
      },
    ],
  });
  await shot(
    'bench-trace',
    `/p/${id}/bench?look=${look('Last Blue')}&clip=${singer}&frame=60`,
    exact,
    (page) => page.getByText('sure on').nth(1).waitFor({ timeout: 180_000 }),
  );
  for (const e of eyes) await asked('DELETE', `/api/traces/${e.id}`);
}
await shot(
  'bench-time',
  `/p/${id}/bench?look=${look('Contour Lamp')}&clip=${clip('kelp')}&frame=33`,
  exact,
  async (page) => {
    await page.getByRole('button', { name: 'Lanes of the time shelf' }).click();
    await page.locator('[data-lane] button').first().click();
  },
);
await shot(
  'assembly',
  `/p/${id}/assembly`,
  'canvas[data-view="hero"][data-exact="true"]',
  async (page) => {
    await page.locator('[data-place="place-10"]').first().click();
    // In the middle of the torn paper, on the fourth line.
    const line = await page.locator('[data-lane="song"]').nth(3).boundingBox();
    await page.mouse.click(line.x + 0.742 * line.width, line.y + 6);
    await page.locator('[data-place="place-10"]').first().click();
    await page.waitForTimeout(800);
    await page.waitForFunction(() => {
      const shown = document.querySelector('canvas[data-view="hero"]');
      const boxes = [...document.querySelectorAll('[data-place]')];
      return shown?.dataset.exact === 'true' && boxes.every((b) => b.style.backgroundImage !== '');
    });
  },
);
await shot(
  'wall-balance',
  `/p/${id}/wall`,
  'canvas[data-view^="tile:"][data-serial]',
  async (page) => {
    await page.getByRole('button', { name: 'balance', exact: true }).click();
    await page.getByRole('button', { name: 'spread' }).click();
    await page.keyboard.press('Control+a');
    await page.waitForSelector('section[aria-label="Spread"][data-ready="true"]', {
      timeout: 60_000,
    });
  },
);
await shot(
  'wall-dials',
  `/p/${id}/wall`,
  'canvas[data-view^="tile:"][data-serial]',
  async (page) => {
    await page.getByRole('button', { name: 'dials' }).click();
    await page
      .getByRole('complementary', { name: 'Dials' })
      .getByRole('slider', { name: 'Bloom' })
      .fill('70');
    await page.getByRole('button', { name: /age along the video/ }).click();
    await page.waitForFunction(() =>
      [...document.querySelectorAll('canvas[data-view^="tile:"]')].every((tile) => {
        const { top, bottom } = tile.getBoundingClientRect();
        return 'serial' in tile.dataset || bottom < 0 || top > innerHeight;
      }),
    );
  },
);
await shot(
  'wall-pins',
  `/p/${id}/wall`,
  'canvas[data-view^="tile:"][data-serial]',
  async (page) => {
    await page.getByRole('button', { name: 'pins', exact: true }).click();
    await page.getByRole('button', { name: /kelp.*Heart/ }).click();
    await page.waitForSelector('canvas[data-view="pinning"][data-serial]');
  },
);
await shot(
  'wall-flags',
  `/p/${id}/wall`,
  'canvas[data-view^="tile:"][data-serial]',
  async (page) => {
    await page.getByRole('button', { name: 'flags' }).click();
    await page.waitForFunction(
      () => document.querySelectorAll('li[data-flags][data-state="done"]').length >= 4,
      undefined,
      { timeout: 600_000 },
    );
  },
);
await shot('wall', `/p/${id}/wall`, 'canvas[data-view^="tile:"][data-serial]', async (page) => {
  await page.waitForFunction(
    () => document.querySelectorAll('canvas[data-view^="tile:"][data-serial]').length === 12,
  );
});
await shot('kiln', `/p/${id}/kiln`, 'form', async (page) => {
  await page.waitForFunction(
    () => document.querySelectorAll('form li img').length === 12,
    undefined,
    { timeout: 120_000 },
  );
  await page.getByRole('button', { name: 'none' }).click();
  for (const name of ['deck-dancer', 'kelp', 'gulls'])
    await page.getByRole('checkbox', { name }).click();
  await page.getByRole('radio', { name: /VP9/ }).check();
  await page.getByLabel('Width').fill('480');
  await page.getByLabel('Height').fill('270');
  await page.getByRole('button', { name: /^Render/ }).click();
  await page
    .locator('[data-clip="deck-dancer"][data-state="done"]')
    .first()
    .waitFor({ timeout: 240_000 });
  await page
    .locator('[data-clip="deck-dancer"][data-state="done"]')
    .first()
    .getByRole('button', { name: 'play' })
    .click();
});
await shot('shelf', `/p/${id}/shelf`, 'li[data-look]', async (page) => {
  await page.locator('li[data-look="Static Bloom"]').getByRole('button').click();
  await page.mouse.move(1100, 700);
  await page.waitForFunction(
    () => document.querySelectorAll('li[data-look] img').length >= 9,
    undefined,
    { timeout: 240_000 },
  );
  await page.waitForFunction(
    () => document.querySelectorAll('aside li img').length >= 6,
    undefined,
    { timeout: 240_000 },
  );
});
await shot('projects', '/', '[data-project] img', async (page) => {
  await page.waitForFunction(
    () => document.querySelectorAll('[data-project] img').length >= 4,
    undefined,
    { timeout: 120_000 },
  );
});
await browser.close();
