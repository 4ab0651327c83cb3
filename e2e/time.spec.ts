import { expect, test } from '@playwright/test';
import { pick, type, unfold } from './pick';
import { bring, digestOf, newProject, parked, settled } from './project';
import { brightLook, frame, goTo, strength } from './time';

test('a layer with a span strikes on its cue: nothing on the frame before, all of it on the frame itself', async ({
  page,
}) => {
  const project = await newProject(page, 'Strikes');
  await bring(page, 'lighthouse-turn');
  const look = await brightLook(
    page,
    'Strike',
    { pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }] },
    { span: { from: { from: 'cue', cue: 'hit' }, to: { from: 'end' } } },
  );
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await goTo(page, 23);
  await page.keyboard.press('c');
  await expect(page.getByRole('img', { name: 'cue at 23' })).toBeVisible();
  const struck = await settled(page, 'hero');
  await goTo(page, 22);
  const before = await settled(page, 'hero');
  // Without the layer the clip is unchanged.
  await page.getByLabel('light on').click();
  await settled(page, 'hero');
  expect(await digestOf(page, 'hero')).toBe(before);
  await page.getByLabel('light on').click();
  await goTo(page, 23);
  expect(await settled(page, 'hero')).toBe(struck);
  // Always: the frame before has it too, and undo names what it reverts.
  await unfold(page.locator('[data-layer="light"]'));
  await page.getByRole('button', { name: 'always' }).click();
  await goTo(page, 22);
  expect(await settled(page, 'hero')).not.toBe(before);
  await page.keyboard.press('Control+z');
  await expect.poll(() => digestOf(page, 'hero')).toBe(before);
});

test('keys are set, found, moved and taken away by the keyboard alone, each undone by name', async ({
  page,
}) => {
  const project = await newProject(page, 'Keys');
  await bring(page, 'lighthouse-turn');
  const look = await brightLook(page, 'Keyed');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const layer = page.locator('[data-layer="light"]');
  await unfold(layer);
  await layer.getByRole('button', { name: 'Exposure', exact: true }).press('Enter');
  await goTo(page, 10);
  const moves = layer.getByLabel('Stops moves by');
  await moves.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { name: 'keys', exact: true })).toBeVisible();
  await page.keyboard.press('k');
  await expect(page.getByRole('option', { name: 'keys', exact: true })).toHaveAttribute(
    'data-focus',
    '',
  );
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'key of Stops at 10' })).toBeVisible();
  // Moving the control sets a key at the playhead.
  await goTo(page, 30);
  await type(layer.getByLabel('Stops, typed'), '-2');
  await expect(page.getByRole('button', { name: 'key of Stops at 30' })).toBeVisible();
  await frame(page).focus();
  await page.keyboard.press('p');
  await expect(frame(page)).toHaveAttribute('aria-valuenow', '10');
  await page.keyboard.press('n');
  await expect(frame(page)).toHaveAttribute('aria-valuenow', '30');
  await page.keyboard.press('Shift+N');
  await expect(page.getByRole('button', { name: 'key of Stops at 31' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^undo/ })).toContainText('move key of Stops');
  await goTo(page, 20);
  // Between the keys: half-way from 1.5 to −2, over 21 frames.
  await expect(layer.getByLabel('Stops, typed')).toHaveValue(/-0\.17/);
  await page.keyboard.press('i');
  await expect(page.getByRole('button', { name: 'key of Stops at 20' })).toBeVisible();
  await page.keyboard.press('Shift+I');
  await expect(page.getByRole('button', { name: 'key of Stops at 20' })).toBeHidden();
  await expect(page.getByRole('button', { name: /^undo/ })).toContainText('remove key of Stops');
  // The hero is low beside the lanes, but its overlay has the picture's own shape.
  const box = (await page.locator('canvas[data-view="hero"]').boundingBox())!;
  expect(box.width / box.height).toBeCloseTo(16 / 9, 2);
  // Both keys at once: spread, mirrored, pasted later.
  const key = (at: number) =>
    page.getByRole('button', { name: `key of Stops at ${at}`, exact: true });
  await key(10).press('Enter');
  await key(31).press('Shift+Enter');
  await type(page.getByLabel('Frames the keys of Stops are spread over'), '10');
  await expect(key(20)).toBeVisible();
  await page.getByRole('button', { name: 'mirror', exact: true }).press('Enter');
  await goTo(page, 10);
  await expect(layer.getByLabel('Stops, typed')).toHaveValue(/^-2/);
  await page.keyboard.press('Control+c');
  await goTo(page, 40);
  await page.keyboard.press('Control+v');
  await expect(key(50)).toBeVisible();
  await key(10).press('ArrowRight');
  await expect(key(11)).toBeVisible();
  await expect(key(21)).toBeVisible();
  for (let i = 0; i < 9; i++) await page.keyboard.press('Control+z');
  await expect(page.getByTestId('lanes')).toContainText('Nothing moves yet');
});

test('a pulse nobody has set yet strikes on the cue chosen for it', async ({ page }) => {
  const project = await newProject(page, 'First strike');
  await bring(page, 'lighthouse-turn');
  const look = await brightLook(page, 'First strike');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const layer = page.locator('[data-layer="light"]');
  await unfold(layer);
  await pick(layer.getByLabel('Opacity moves by'), 'new:pulse');
  const strikes = page.locator('[data-instant="Strikes at"]');
  await pick(strikes.getByLabel('Strikes at counts from'), 'cue:+');
  await expect(strikes.getByLabel('Offset, typed')).toHaveValue(/^0/);
  await goTo(page, 23);
  await page.keyboard.press('c');
  await expect(strikes.getByTitle('the frame of the hero on which it falls')).toHaveText('23');
});

test('an instant counts from elsewhere and stays on its frame; a dial drives how long a ramp takes', async ({
  page,
}) => {
  const project = await newProject(page, 'Instants');
  await bring(page, 'lighthouse-turn');
  const dial = {
    key: 'length',
    label: 'Length',
    kind: 'number',
    min: 0,
    max: 4,
    unit: 's',
    value: 1,
  };
  const mover = {
    key: 'rise',
    name: 'Rise',
    on: true,
    kind: 'ramp',
    parameters: { over: { dial: 'length', from: 0, to: 4 }, ease: { value: 'linear' } },
    instants: { from: [{ from: 'start', offset: { value: 1 } }] },
    targets: [{ path: 'light/exposure/stops', how: 'multiply', amount: { value: 100 } }],
  };
  const look = await brightLook(page, 'Rise', { movers: [mover], dials: [strength, dial] });
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await page.keyboard.press('y');
  await page.getByRole('button', { name: 'Rise', exact: false }).first().click();
  const begins = page.locator('[data-instant="Begins at"]');
  await expect(begins).toContainText('25');
  await goTo(page, 30);
  const at30 = await settled(page, 'hero');
  await pick(begins.getByLabel('Begins at counts from'), 'end');
  await expect(begins.getByLabel('Offset, typed')).toHaveValue(/^-2/);
  await expect(begins).toContainText('25');
  expect(await settled(page, 'hero')).toBe(at30);
  await type(page.getByLabel('Length, typed'), '0.1');
  expect(await settled(page, 'hero')).not.toBe(at30);
});
