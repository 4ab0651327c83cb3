import { expect, type Page, test } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import {
  bring,
  digestOf,
  digestOfPicture,
  hero,
  newestOf,
  newLook,
  newProject,
  parked,
  rendered,
  settled,
} from './project';
import { pick } from './pick';

interface Clip {
  readonly id: string;
  readonly name: string;
  readonly fit: string;
  readonly reframe: { readonly x: number; readonly y: number; readonly closer: number } | null;
  readonly chance: { readonly number: number };
}
const clipOf = async (page: Page, project: string, name: string): Promise<Clip> =>
  (
    (await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: Clip[] }
  ).clips.find((c) => c.name === name)!;
/** The green value at points of a view (the hero), given as fractions of its width and height. */
const greens = (
  page: Page,
  places: readonly (readonly [number, number])[],
  view = 'hero',
): Promise<number[]> =>
  page.locator(`canvas[data-view="${view}"]`).evaluate((c: HTMLCanvasElement, all) => {
    const copy = new OffscreenCanvas(c.width, c.height).getContext('2d')!;
    copy.drawImage(c, 0, 0);
    return all.map(
      ([x, y]) =>
        copy.getImageData(Math.floor(x * c.width), Math.floor(y * c.height), 1, 1).data[1]!,
    );
  }, places);

test('a look composes in a frame of its own, a clip is reframed in it, and the terminal renders the same', async ({
  page,
}) => {
  const project = await newProject(page, 'Shapes');
  await bring(page, 'gulls');
  const look = await newLook(page, 'Square');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const bedrock = page.getByRole('region', { name: 'Bedrock' });
  await bedrock.getByRole('button', { name: /bedrock/ }).click();
  const whole = await settled(page, 'hero');

  // A square between bars with rounded corners: black beside it and in its corners.
  await pick(bedrock.getByLabel('Look frame'), { label: 'square 1:1' });
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(whole);
  await expect(bedrock.getByLabel('How the look frame lies')).toHaveAttribute('data-value', 'bars');
  const radius = bedrock.getByRole('textbox', { name: 'Corner radius, typed' });
  await radius.click();
  await radius.fill('120');
  await page.keyboard.press('Enter');
  const [half, left, right] = [540 / 960 / 2, 0.5 - 540 / 960 / 2, 0.5 + 540 / 960 / 2];
  await bedrock.getByRole('button', { name: 'fill', exact: true }).click();
  await settled(page, 'hero');
  const at = await greens(page, [
    [left - 0.02, 0.5],
    [right + 0.02, 0.5],
    [left + 0.003, 0.004],
    [0.5, 0.02],
  ]);
  expect(at.slice(0, 3)).toEqual([0, 0, 0]);
  expect(at[3]!).toBeGreaterThan(100);
  expect((await clipOf(page, project, 'gulls')).fit).toBe('fill');

  // The view before the look has the same framing.
  await page.keyboard.down('b');
  const before = page.locator('canvas[data-view="before"]');
  await expect(before).toBeVisible();
  await settled(page, 'before');
  expect(await greens(page, [[left - 0.02, 0.5]], 'before')).toEqual([0]);
  expect((await greens(page, [[0.5, 0.02]], 'before'))[0]!).toBeGreaterThan(60);
  await page.keyboard.up('b');
  await expect(before).toHaveCount(0);

  // Dragging the picture's middle reframes it only as far as it still covers the frame; one undo,
  // one redo.
  const centred = await settled(page, 'hero');
  const grip = page.getByRole('button', { name: 'Middle of gulls' });
  const [box, from] = [(await hero(page).boundingBox())!, (await grip.boundingBox())!];
  const [x, y] = [from.x + from.width / 2, from.y + from.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + box.width * 0.05, y, { steps: 5 });
  await page.mouse.up();
  await expect
    .poll(async () => (await clipOf(page, project, 'gulls')).reframe?.x)
    .toBeCloseTo(0.45, 1);
  const moved = await settled(page, 'hero');
  expect(moved).not.toBe(centred);
  await page.keyboard.press('Control+z');
  await expect.poll(() => digestOf(page, 'hero')).toBe(centred);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => digestOf(page, 'hero')).toBe(moved);
  const closer = bedrock.getByRole('textbox', { name: 'gulls closer, typed' });
  await closer.click();
  await closer.fill('160');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await clipOf(page, project, 'gulls')).reframe?.closer).toBe(160);

  // Another chance belongs to the clip as well, and undo takes it back.
  const chance = async () => (await clipOf(page, project, 'gulls')).chance.number;
  await bedrock.getByRole('button', { name: 'another chance for gulls' }).click();
  await expect.poll(chance).toBeGreaterThan(0);
  await page.keyboard.press('Control+z');
  await expect.poll(chance).toBe(0);

  // Saved and rendered, it equals the hero bit for bit.
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  await parked(page);
  const [frame, shown] = [
    (await hero(page).getAttribute('data-frame'))!,
    await settled(page, 'hero'),
  ];
  const file = test.info().outputPath('square.json');
  const document = (await newestOf(page, look)) as { frame: unknown };
  expect(document.frame).toEqual({ shape: [1, 1], lies: 'bars', rounded: 120 });
  await writeFile(file, JSON.stringify(document));
  const { reframe } = await clipOf(page, project, 'gulls');
  const reframed = [reframe!.x * 100, reframe!.y * 100, reframe!.closer].join(',');
  const out = test.info().outputPath('frames');
  await rendered(
    file,
    'gulls',
    out,
    '--fit',
    'fill',
    '--reframe',
    reframed,
    '--frames',
    frame,
    '--size',
    '960x540',
    '--depth',
    '8',
  );
  expect(await digestOfPicture(`${out}/${frame.padStart(6, '0')}.png`)).toBe(shown);
  expect(half).toBeCloseTo(0.28125, 9);
});
