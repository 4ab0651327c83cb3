import { chromium, expect, type Page, test } from '@playwright/test';
import { build } from 'esbuild';
import type { Compared } from './browser/glsl';
import { bring, digestOf, hero, newProject, parked, shippedLook } from './project';
import { pick } from './pick';

// WebGL2 by a software renderer: slow, but with the precision of single floats.
const ARGS = [
  '--no-sandbox',
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--ignore-gpu-blocklist',
];

interface Bundle {
  readonly glsl: {
    steps(w: number, h: number, planes: number): Compared[];
    kernels(w: number, h: number): Compared[];
    composites(w: number, h: number): Compared[];
  };
}

/** Steps with a threshold: some pixels fall on its other side. */
const DECIDING = new Set(['threshold', 'contour', 'fold', 'stripes', 'placed repeat']);

test('WebGL2 agrees with the double reference, for every step and every edge rule', async () => {
  const bundle = await build({
    entryPoints: ['e2e/browser/glsl.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
  });
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ARGS });
  try {
    const page = await browser.newPage();
    await page.addScriptTag({ content: bundle.outputFiles[0]!.text });
    for (const [w, h] of [
      [1, 1],
      [3, 5],
      [67, 41],
      [131, 37],
    ] as const) {
      const found = await page.evaluate(
        ([w, h]) => (globalThis as unknown as Bundle).glsl.kernels(w, h),
        [w, h] as const,
      );
      for (const { name, most } of found)
        expect(most, `${name} at ${w}×${h}`).toBeLessThan(1 / 1024);
      const composites = await page.evaluate(
        ([w, h]) => (globalThis as unknown as Bundle).glsl.composites(w, h),
        [w, h] as const,
      );
      for (const { name, most, share } of composites) {
        // Beyond a seam the picture is unrelated.
        if (DECIDING.has(name)) expect(share, `${name} at ${w}×${h}`).toBeLessThan(0.01);
        else expect(most, `${name} at ${w}×${h}`).toBeLessThan(1 / 1024);
      }
      for (const planes of [3, 4]) {
        if (w > 100 && planes === 4) continue;
        const of = await page.evaluate(
          ([w, h, p]) => (globalThis as unknown as Bundle).glsl.steps(w, h, p),
          [w, h, planes] as const,
        );
        for (const { name, most, share } of of) {
          if (DECIDING.has(name))
            expect(share, `${name} at ${w}×${h}, ${planes} planes`).toBeLessThan(0.01);
          else expect(most, `${name} at ${w}×${h}, ${planes} planes`).toBeLessThan(1 / 1024);
        }
      }
    }
  } finally {
    await browser.close();
  }
});

test('the Bench shows the same by WebGL2 as by simd, and says which it is', async ({
  page: plain,
  baseURL,
}) => {
  const project = await newProject(plain, 'Graphics');
  await bring(plain, 'rain-window');
  const look = await shippedLook(plain, 'soft-lens');
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ARGS });
  try {
    // The test injects the code that compares pictures; the page's own policy would not allow it.
    const page = await browser.newPage({
      viewport: { width: 1280, height: 800 },
      baseURL: baseURL!,
      bypassCSP: true,
    });
    await page.goto(`/p/${project}/bench?look=${look}`);
    await parked(page);
    const status = page.getByRole('status').filter({ hasText: 'ms' });
    // A software renderer is not chosen automatically.
    await expect(status).toContainText('simd');
    const bySimd = await digestOf(page, 'hero');
    await remember(page);
    await pick(page.getByLabel('computed by'), 'glsl');
    await expect(hero(page)).toHaveAttribute('data-back-end', 'glsl', { timeout: 90_000 });
    await expect(status).toContainText('glsl');
    // It is slow here, so half the size is drawn first.
    await parked(page);
    const { most, share } = await apart(page);
    expect(most).toBeLessThanOrEqual(1);
    expect(share).toBeLessThan(0.01);
    await page.reload();
    await expect(status).toContainText('glsl', { timeout: 90_000 });
    await pick(page.getByLabel('computed by'), 'simd');
    await expect(hero(page)).toHaveAttribute('data-back-end', 'simd', { timeout: 90_000 });
    await parked(page);
    await expect.poll(() => digestOf(page, 'hero')).toBe(bySimd);
  } finally {
    await browser.close();
  }
});

const pixels = (c: HTMLCanvasElement): Uint8ClampedArray => {
  const copy = new OffscreenCanvas(c.width, c.height).getContext('2d')!;
  copy.drawImage(c, 0, 0);
  return copy.getImageData(0, 0, c.width, c.height).data;
};
interface Remembering {
  remembered: Uint8ClampedArray;
  pixels: typeof pixels;
}
/** Keeps the hero's bytes in the page. */
async function remember(page: Page): Promise<void> {
  await page.addScriptTag({ content: `globalThis.pixels = ${pixels.toString()}` });
  await hero(page).evaluate((c: HTMLCanvasElement) => {
    const all = globalThis as unknown as Remembering;
    all.remembered = all.pixels(c);
  });
}
/** The largest difference between the hero's bytes and the kept ones, and the share that differ. */
const apart = (page: Page): Promise<{ most: number; share: number }> =>
  hero(page).evaluate((c: HTMLCanvasElement) => {
    const all = globalThis as unknown as Remembering;
    const now = all.pixels(c);
    let most = now.length === all.remembered.length ? 0 : 255,
      off = 0;
    now.forEach((v, i) => {
      const d = Math.abs(v - all.remembered[i]!);
      most = Math.max(most, d);
      if (d > 0) off++;
    });
    return { most, share: off / now.length };
  });
