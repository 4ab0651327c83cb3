import { expect, test } from '@playwright/test';
import { bring, newProject, shippedLook } from './project';

test('no screen overflows, scrolls inside a scroll, or has a hue but the accent', async ({
  page,
}) => {
  const project = await newProject(page, 'Screens');
  await bring(page, 'gulls', 'coast-van');
  const look = await shippedLook(page, 'soft-lens');
  for (const place of ['rushes', `bench?look=${look}`, 'wall', 'kiln', 'shelf']) {
    await page.goto(`/p/${project}/${place}`);
    await expect(page.locator('h1')).toBeVisible();
    await page.waitForTimeout(800);
    const found = await page.evaluate(() => {
      const all = [...document.querySelectorAll<HTMLElement>('body *')];
      const scrolls = (e: Element) =>
        ['auto', 'scroll'].includes(getComputedStyle(e).overflowY) &&
        e.scrollHeight > e.clientHeight + 1;
      const nested = all.filter(
        (e) =>
          scrolls(e) &&
          e.parentElement?.closest('.scrolls') &&
          scrolls(e.parentElement.closest('.scrolls')!),
      );
      const hued = new Set<string>();
      for (const e of all)
        for (const p of ['color', 'backgroundColor', 'borderTopColor'] as const) {
          const m = /oklch\(([\d.]+%?) ([\d.e-]+) ([\d.]+)/.exec(getComputedStyle(e)[p]);
          if (m && Number(m[2]) > 0.002 && Math.abs(Number(m[3]) - 82) > 3)
            hued.add(getComputedStyle(e)[p]);
        }
      const cut = all
        .filter(
          (e) =>
            e.children.length === 0 &&
            e.tagName !== 'OPTION' &&
            (e.textContent ?? '').trim() !== '' &&
            e.scrollWidth > e.clientWidth + 1 &&
            getComputedStyle(e).overflow !== 'visible' &&
            getComputedStyle(e).textOverflow !== 'ellipsis',
        )
        .map((e) => e.textContent);
      return {
        wide: document.documentElement.scrollWidth,
        high: document.documentElement.scrollHeight,
        nested: nested.length,
        hued: [...hued],
        cut,
      };
    });
    expect(found, place).toEqual({ wide: 1280, high: 800, nested: 0, hued: [], cut: [] });
    if (place.startsWith('bench')) {
      const area = async (s: string) => {
        const b = (await page.locator(s).first().boundingBox())!;
        return b.width * b.height;
      };
      expect(await area('canvas[data-view="hero"]')).toBeGreaterThan(
        await area('[aria-label="Strata"]'),
      );
    }
  }
});
