import { expect, test } from '@playwright/test';
import { bring, digestOf, newProject, parked, settled, shippedLook } from './project';
import { pick } from './pick';

test('strata are built, reordered, copied between looks, undone by name, and survive a reload', async ({
  page,
}) => {
  const project = await newProject(page, 'Strata');
  await bring(page, 'gulls');
  const silt = await shippedLook(page, 'silt'),
    lamp = await shippedLook(page, 'contour-lamp');
  await page.goto(`/p/${project}/bench?look=${silt}`);
  await parked(page);

  await pick(page.getByLabel('Add a layer from'), 'below');
  const layer = page.locator('li[data-layer="layer"]');
  await pick(layer.getByLabel('Add a step to layer'), 'exposure');
  const plain = await digestOf(page, 'hero');
  await layer.getByLabel('Stops', { exact: true }).fill('2');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(plain);
  await expect(page.getByRole('button', { name: /^undo Exposure stops/ })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^undo add exposure/ })).toBeEnabled();
  await page.keyboard.press('Control+Shift+z');
  // One press turns a control into a dial named after its effect.
  await layer.getByRole('button', { name: 'Stops', exact: true }).click();
  const dial = page
    .getByRole('region', { name: 'Dials' })
    .getByRole('slider', { name: 'Exposure stops' });
  await expect(dial).toHaveValue('2');
  await page.keyboard.press('Control+z');
  await expect(dial).toHaveCount(0);

  const order = () =>
    page
      .locator('li[data-layer]')
      .evaluateAll((rows) => rows.map((r) => r.getAttribute('data-layer')));
  expect(await order()).toEqual(['layer', 'silver', 'grade']);
  const grip = page.getByRole('button', { name: 'Move layer layer' });
  await grip.focus();
  for (const key of ['Space', 'ArrowDown', 'Space']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
  }
  await expect.poll(order).toEqual(['silver', 'layer', 'grade']);

  await layer
    .locator('li[data-step="exposure"]')
    .getByRole('button', { name: 'Exposure', exact: true })
    .click();
  await page.keyboard.press('Control+c');
  await page.reload();
  await expect(page.getByText('unsaved')).toBeVisible();
  expect(await order()).toEqual(['silver', 'layer', 'grade']);

  await page.goto(`/p/${project}/bench?look=${lamp}`);
  await parked(page);
  await page.locator('li[data-layer="dusk"]').getByText('dusk', { exact: true }).click();
  await page.keyboard.press('Control+v');
  await expect(page.locator('li[data-layer="dusk"] li[data-step="exposure-2"]')).toBeVisible();
});

test('the seam, hold to compare, zoom and the list of keys answer to the keyboard', async ({
  page,
}) => {
  const project = await newProject(page, 'Keys');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await page.keyboard.press('s');
  const seam = page.getByRole('slider', { name: 'Seam' });
  await expect(seam).toHaveAttribute('aria-valuenow', '50');
  await seam.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(seam).toHaveAttribute('aria-valuenow', '48');
  await page.keyboard.press('s');
  await page.keyboard.down('b');
  await expect(page.getByTestId('source')).toHaveText(/^before/);
  await page.keyboard.up('b');
  await expect(page.getByTestId('source')).toHaveText(/^exact/);
  await page.keyboard.press('1');
  await expect(page.getByTestId('source')).toHaveText(/1920×1080/);
  await page.keyboard.press('f');
  await expect(page.getByTestId('source')).toHaveText(/960×540/);
  const frame = page.getByRole('slider', { name: 'Frame' });
  const at = Number(await frame.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowRight');
  await expect(frame).toHaveAttribute('aria-valuenow', String(at + 1));
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Shortcuts' })).toBeVisible();
});

test('while a dial is dragged the page draws its line and the pictures alone, and what is done next loses nothing of it', async ({
  page,
}) => {
  const project = await newProject(page, 'Calm');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const slider = page.getByRole('slider', { name: 'Age', exact: true });
  await settled(page, 'stratum:frame');
  const before = await digestOf(page, 'hero');
  await slider.fill('60'); // the first move of a gesture names what undo would take back
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(before);

  const elsewhere = await slider.evaluate(async (input: HTMLInputElement) => {
    const found = new Set<string>();
    const watch = new MutationObserver((all) => {
      for (const { target, attributeName } of all) {
        const at = target instanceof Element ? target : target.parentElement!;
        if (!at.closest('[data-dial="age"], canvas, footer'))
          found.add(`${at.outerHTML.slice(0, 80)} ${attributeName ?? ''}`);
      }
    });
    watch.observe(document.body, {
      subtree: true,
      childList: true,
      characterData: true,
      attributes: true,
    });
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
    for (const v of [62, 64, 66, 68, 70]) {
      set.call(input, String(v));
      input.dispatchEvent(new Event('input', { bubbles: true }));
      await new Promise((r) => setTimeout(r, 60));
    }
    watch.disconnect();
    return [...found];
  });
  expect(elsewhere).toEqual([]);

  // Edits apply to the look as it is by then.
  const moved = await slider.inputValue();
  await page.getByRole('checkbox', { name: 'bloom on', exact: true }).uncheck();
  await expect(slider).toHaveValue(moved);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('checkbox', { name: 'bloom on', exact: true })).toBeChecked();
  await expect(slider).toHaveValue(moved);
  await page.keyboard.press('Control+z');
  await expect(slider).toHaveValue('40');
  await expect.poll(() => digestOf(page, 'hero')).toBe(before);
});

test('dials are put in order by hand, and end at the picture they show', async ({ page }) => {
  const project = await newProject(page, 'Ordered');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const dials = page.getByRole('region', { name: 'Dials' });
  const order = () =>
    dials.locator('[data-dial]').evaluateAll((all) => all.map((d) => d.getAttribute('data-dial')));
  const [strength, first, second] = await order();
  await pick(dials.getByLabel('Order and ends of Bloom'), 'later');
  await expect.poll(async () => (await order()).slice(0, 3)).toEqual([strength, second, first]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await order()).slice(0, 3)).toEqual([strength, first, second]);

  const bloom = dials.getByRole('slider', { name: 'Bloom', exact: true });
  await bloom.fill('60');
  const shown = await settled(page, 'hero');
  await pick(dials.getByLabel('Order and ends of Bloom'), 'most');
  await expect(bloom).toHaveAttribute('max', '60');
  // The picture is as before, and the dial's range ends there.
  expect(await settled(page, 'hero')).toBe(shown);
  await bloom.focus();
  await page.keyboard.press('End');
  await expect(bloom).toHaveValue('60');
});
