import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { pick } from './pick';
import { bring, newProject, shippedLook } from './project';
import { faultsOfWindow } from './window';

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1600, height: 1000 },
] as const;
const THEMES = ['washi', 'kiln'] as const;

test('in an ordinary window nothing is cut, wraps, scrolls sideways or scrolls twice, and nobody is shut out', async ({
  page,
}) => {
  test.setTimeout(420_000);
  const project = await newProject(page, 'An ordinary window');
  await bring(page, 'gulls', 'lighthouse-turn', 'white-room');
  const look = await shippedLook(page, 'soft-lens');
  const views: Record<string, () => Promise<void>> = {
    rushes: () => expect(page.getByRole('button', { name: /gulls/ })).toBeVisible(),
    wall: () => expect(page.getByText('lighthouse-turn').first()).toBeVisible(),
    kiln: () => expect(page.getByRole('button', { name: /^Render/ })).toBeVisible(),
    shelf: () => expect(page.getByText('Soft Lens').first()).toBeVisible(),
    [`bench?look=${look}`]: () => expect(page.locator('canvas[data-view="hero"]')).toBeVisible(),
  };
  for (const size of SIZES)
    for (const theme of THEMES) {
      await page.setViewportSize(size);
      await page.goto('/api/status');
      await page.evaluate((t) => localStorage.setItem('theme', t), theme);
      for (const [view, ready] of Object.entries(views)) {
        await page.goto(`/p/${project}/${view}`);
        await ready();
        await page.waitForTimeout(800);
        const where = `${view} at ${size.width} in ${theme}`;
        expect(await page.evaluate(faultsOfWindow), where).toEqual({
          sideways: [],
          cut: [],
          wrapped: [],
          nested: [],
        });
        // Contrast and accessible names do not depend on the window's size.
        if (size !== SIZES[0]) continue;
        const { violations } = await new AxeBuilder({ page }).analyze();
        expect
          .soft(
            violations
              .filter((v) => v.impact === 'serious' || v.impact === 'critical')
              .flatMap((v) =>
                v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.any[0]?.message ?? ''}`),
              ),
            where,
          )
          .toEqual([]);
      }
    }
});

test('on the Bench nothing is open until it is asked for; a step is found by typing, and by keys alone', async ({
  page,
}) => {
  const project = await newProject(page, 'Nothing open');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${project}/bench?look=${look}`);
  const layers = page.locator('[data-layer]');
  await expect(layers.first()).toBeVisible();
  for (const layer of await layers.all())
    await expect(layer.getByRole('button', { expanded: true })).toHaveCount(0);
  await expect(page.getByTestId('handles').getByRole('button')).toHaveCount(0);

  await layers.first().getByRole('button', { expanded: false }).first().click();
  await expect(page.getByTestId('handles').getByRole('button').first()).toBeVisible();
  await page.getByRole('button', { name: /^Add a step to/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('vign');
  await expect(page.getByRole('option').first()).toHaveText(/Vignette/);
  await page.keyboard.press('Enter');
  await expect(layers.first().getByText('Vignette')).toBeVisible();
  await expect(page.getByRole('option')).toHaveCount(0);
  await page.keyboard.press('Control+z');

  await pick(page.getByLabel('Add a layer from'), 'below');
  await expect(page.getByTestId('handles').getByRole('button')).toHaveCount(0);
});
