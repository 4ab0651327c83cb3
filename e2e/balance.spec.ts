import { expect, test } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import {
  bring,
  digestOf,
  digestOfPicture,
  hero,
  newProject,
  parked,
  rendered,
  settled,
  shippedLook,
} from './project';
import { pick } from './pick';

interface Clip {
  readonly id: string;
  readonly name: string;
  readonly balance: {
    readonly slope: number[];
    readonly offset: number[];
    readonly power: number[];
    readonly saturation: number;
  } | null;
}

test('clips are balanced on the Wall, put back, and rendered as they were shown', async ({
  page,
}) => {
  const project = await newProject(page, 'Balancing');
  await bring(page, 'rain-window', 'gulls', 'lighthouse-turn');
  const look = await shippedLook(page, 'silt');
  const clips = async () =>
    ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: Clip[] })
      .clips;
  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'balanced' }).click();
  await page.getByRole('button', { name: 'balance', exact: true }).click();
  const balanced = page.locator('button[data-clip]', { hasText: 'balanced' });
  const panel = page.getByRole('complementary', { name: 'Balance' });
  await expect(panel).toContainText('Choose clips to balance');
  await page.keyboard.press('Control+a');
  await expect(panel.locator('tr[data-balance]')).toHaveCount(3, { timeout: 90_000 });

  // The tiles preview the match before it is applied; holding shows the present state.
  const [gulls] = (await clips()).filter((c) => c.name === 'gulls') as [Clip];
  const tile = `tile:${gulls.id}`;
  const proposed = await settled(page, tile);
  const hold = panel.getByRole('button', { name: 'hold: before' });
  await hold.hover();
  await page.mouse.down();
  await expect.poll(() => digestOf(page, tile)).not.toBe(proposed);
  const asShot = await settled(page, tile);
  await page.mouse.up();
  await expect.poll(() => digestOf(page, tile)).toBe(proposed);
  // Moving along a tile's foot scrubs its clip; on leaving, the playhead counts again.
  const strip = page.getByRole('slider', { name: 'Through gulls' });
  await strip.hover({ position: { x: 3, y: 5 } });
  await expect.poll(() => digestOf(page, tile)).not.toBe(proposed);
  await expect(strip).toHaveAttribute('aria-valuenow', /^[0-3]$/);
  await hold.hover();
  await expect.poll(() => digestOf(page, tile)).toBe(proposed);

  await panel.getByRole('button', { name: 'balance 3 clips' }).click();
  await expect(balanced).toHaveCount(3);
  await panel.getByRole('button', { name: 'close' }).click();
  await expect.poll(() => digestOf(page, tile)).toBe(proposed);
  await page.getByRole('button', { name: /^undo/ }).click();
  await expect(balanced).toHaveCount(0);
  await expect.poll(() => digestOf(page, tile)).toBe(asShot);

  // A status and a note for the selected clips; the tiles are sorted as asked.
  await page.keyboard.press('Escape');
  await page.locator('button[data-clip="gulls"]').click();
  await pick(page.getByLabel('Status of the chosen clips'), 'agreed');
  await page.getByLabel('Note of the chosen clips').fill('keep the sky');
  await page.keyboard.press('Enter');
  await expect(page.locator('button[data-clip="gulls"]')).toContainText('agreed');
  await expect(page.locator('button[data-clip="gulls"]')).toHaveAttribute('title', 'keep the sky');
  await pick(page.getByRole('combobox', { name: 'sorted' }), 'lightness');
  await expect(page.locator('button[data-clip]').last()).toHaveAttribute('data-clip', 'gulls');
  await pick(page.getByRole('combobox', { name: 'at the' }), 'start');
  await expect(page.locator(`canvas[data-view="${tile}"]`)).toHaveAttribute('data-frame', '0');
  await page.keyboard.press('Control+a');

  // A clip that the others are matched to stays as it is.
  await page.getByRole('button', { name: 'balance', exact: true }).click();
  await pick(panel.getByLabel('bring to'), { label: 'gulls' });
  await panel.getByRole('button', { name: 'balance 3 clips' }).click();
  await expect(balanced).toHaveCount(2);
  await expect.poll(async () => (await clips()).filter((c) => c.balance).length).toBe(2);
  const rain = (await clips()).find((c) => c.name === 'rain-window')!;
  expect((await clips()).find((c) => c.name === 'gulls')!.balance).toBeNull();

  // The spread of the balanced clips is smaller, and its points lead to their clips.
  await panel.getByRole('button', { name: 'close' }).click();
  await page.getByRole('button', { name: 'spread' }).click();
  const spread = page.getByRole('region', { name: 'Spread' });
  await expect(spread).toHaveAttribute('data-ready', 'true', { timeout: 60_000 });
  const [asFilmed, under] = (
    await spread.locator('[data-trait="lightness"] p span').allTextContents()
  ).map(Number) as [number, number];
  expect(under).toBeLessThan(asFilmed * 0.95);
  await spread.locator('[data-trait="lightness"] canvas').click();
  await page.waitForURL(/\/bench\?clip=/);

  // Matched to a kept reference, and one clip graded directly: its tile previews it.
  await parked(page);
  await page.keyboard.press('r');
  await expect
    .poll(
      async () =>
        (
          (await (
            await page.request.get(`/api/projects/${project}/references`)
          ).json()) as unknown[]
        ).length,
    )
    .toBe(1);
  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'balance', exact: true }).click();
  await page.locator('button[data-clip="lighthouse-turn"]').click();
  await panel.getByLabel('bring to').click();
  await page.getByRole('group', { name: 'references' }).getByRole('option').first().click();
  await expect(panel.getByRole('button', { name: 'balance 1 clip' })).toBeEnabled();
  const lighthouse = (await clips()).find((c) => c.name === 'lighthouse-turn')!;
  const matched = await settled(page, `tile:${lighthouse.id}`);
  await panel.getByRole('button', { name: 'balance lighthouse-turn by hand' }).click();
  const hand = panel.getByRole('region', { name: 'By hand' });
  await hand.getByLabel('gain all').fill('25');
  await page.keyboard.press('Enter');
  await hand.getByRole('slider', { name: 'gamma wheel' }).focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowUp');
  await expect.poll(() => digestOf(page, `tile:${lighthouse.id}`)).not.toBe(matched);
  await panel.locator('button.main').click();
  await expect
    .poll(async () => (await clips()).find((c) => c.name === 'lighthouse-turn')!.balance)
    .not.toEqual(lighthouse.balance);
  const byHand = (await clips()).find((c) => c.name === 'lighthouse-turn')!.balance!;
  expect(byHand.power[0]).toBeLessThan(byHand.power[1]!);

  // A second window that has not seen the change is told so, and changes nothing.
  const refused = await page.request.post(`/api/projects/${project}/clips`, {
    data: { clips: [{ clip: rain.id, to: { balance: null }, was: { balance: null } }] },
  });
  expect(refused.status()).toBe(409);
  expect(await refused.text()).toContain('rain-window was balanced anew');
  expect((await clips()).find((c) => c.name === 'rain-window')!.balance).toEqual(rain.balance);
  const wrong = await page.request.post(`/api/projects/${project}/clips`, {
    data: {
      clips: [
        {
          clip: rain.id,
          to: { balance: { ...rain.balance, slope: [1, 1] } },
          was: { balance: rain.balance },
        },
      ],
    },
  });
  expect(wrong.status()).toBe(422);

  // The parked hero equals what the command line renders with the same decision list.
  await page.goto(`/p/${project}/bench?look=${look}`);
  await pick(page.locator('footer').getByLabel(/^hero/), { label: 'rain-window' });
  await parked(page);
  const file = test.info().outputPath('rain.cc');
  const { slope, offset, power, saturation } = rain.balance!;
  await writeFile(
    file,
    `<ColorCorrection id="rain"><SOPNode><Slope>${slope.join(' ')}</Slope><Offset>${offset.join(' ')}</Offset><Power>${power.join(' ')}</Power></SOPNode><SatNode><Saturation>${saturation}</Saturation></SatNode></ColorCorrection>`,
  );
  const frame = (await hero(page).getAttribute('data-frame'))!;
  const out = test.info().outputPath('frames');
  // This match acts on the working curve and does not clamp; a bare file would mean the clip's code
  // values.
  const meant = ['--balance-on', 'srgb', '--balance-hold', 'off'];
  await rendered(
    'silt',
    'rain-window',
    out,
    '--frames',
    frame,
    '--size',
    '960x540',
    '--balance',
    file,
    ...meant,
    '--depth',
    '8',
  );
  expect(await digestOfPicture(`${out}/${frame.padStart(6, '0')}.png`)).toBe(
    await digestOf(page, 'hero'),
  );
});
