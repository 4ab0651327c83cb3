import { expect, type Page, test } from '@playwright/test';
import {
  bring,
  digestOfPicture,
  hero,
  newestOf,
  newProject,
  parked,
  rendered,
  settled,
  versionOf,
} from './project';
import { pick, unfold } from './pick';

interface Clip {
  readonly id: string;
  readonly name: string;
  readonly pins: Record<string, ({ frame: number } | { x: number; y: number })[]>;
}
const clipsOf = async (page: Page, project: string): Promise<Clip[]> =>
  ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: Clip[] }).clips;

/** A look with a light at each point of a pin, and a cue. */
const LOOK = {
  schema: 2,
  name: 'Lamps',
  seed: 1,
  bedrock: true,
  dials: [
    { key: 'strength', label: 'Strength', kind: 'number', min: 0, max: 100, unit: '%', value: 100 },
  ],
  layers: [
    {
      key: 'lamps',
      name: 'lamps',
      on: true,
      source: 'fill',
      blend: 'add-light',
      opacity: { value: 100 },
      steps: [
        {
          key: 'lamp',
          step: 'radial-gradient',
          on: true,
          mix: { value: 100 },
          parameters: {
            centre: { value: [0.5, 0.5] },
            radius: { value: 160 },
            cover: { value: 60 },
          },
        },
      ],
    },
  ],
};

test('a look asks for points and cues; they are set on the Bench and clip after clip on the Wall, and rendered', async ({
  page,
}) => {
  const project = await newProject(page, 'Pins');
  await bring(page, 'white-room', 'gulls');
  const { lookId } = (await (
    await page.request.post('/api/looks', { data: { document: LOOK } })
  ).json()) as { lookId: string };
  const clip = async (name: string) => (await clipsOf(page, project)).find((c) => c.name === name)!;
  const room = await clip('white-room');

  // The look asks for several points and a cue; the light sits at the points.
  await page.goto(`/p/${project}/bench?look=${lookId}&clip=${room.id}`);
  await parked(page);
  const pins = page.getByRole('region', { name: 'Pins' });
  await pick(pins.getByLabel('Ask each clip for a pin'), 'point');
  await pick(pins.getByLabel('Ask each clip for a pin'), 'cue');
  await pins.getByLabel('Several of Point').check();
  await unfold(page.locator('li[data-layer]').first());
  await page.getByRole('button', { name: 'Radial gradient', exact: true }).click();
  await pick(page.getByLabel('Centre is set by'), { label: 'Point' });
  const centred = await settled(page, 'hero');

  // Two points on the hero, undo and redo; the cue by its shortcut.
  await pins.locator('[data-pin="point"]').getByRole('button', { name: 'place' }).click();
  const box = (await hero(page).boundingBox())!;
  const press = (x: number, y: number) =>
    page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await press(0.45, 0.3);
  await expect.poll(async () => (await clip('white-room')).pins['point']?.length).toBe(1);
  await press(0.55, 0.3);
  await expect.poll(async () => (await clip('white-room')).pins['point']?.length).toBe(2);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await clip('white-room')).pins['point']?.length).toBe(1);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => (await clip('white-room')).pins['point']?.length).toBe(2);
  // A portrait clip fitted into a wide frame: points are fractions of the clip, not of the frame.
  const [left, right] = (await clip('white-room')).pins['point'] as { x: number; y: number }[];
  expect(left!.x).toBeCloseTo(0.5 - 0.05 / (540 / 960 / (16 / 9)), 1);
  expect(right!.x).toBeCloseTo(1 - left!.x, 1);
  await page.keyboard.press('Home');
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('c');
  await expect.poll(async () => (await clip('white-room')).pins['cue']).toEqual([{ frame: 7 }]);
  await expect(page.getByRole('img', { name: 'cue at 7' })).toBeVisible();
  await parked(page);
  const lit = await settled(page, 'hero');
  expect(lit).not.toBe(centred);

  // The command line renders the same pixels with the same points.
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  const document = await newestOf(page, lookId);
  const { writeFile } = await import('node:fs/promises');
  const file = test.info().outputPath('lamps.json');
  await writeFile(file, JSON.stringify(document));
  const places = [left!, right!].map(({ x, y }) => `${x * 100},${y * 100}`).join(';');
  const out = test.info().outputPath('frames');
  await rendered(
    file,
    'white-room',
    out,
    '--frames',
    '7',
    '--size',
    '960x540',
    '--pin',
    `point=${places}`,
    '--depth',
    '8',
  );
  expect(await digestOfPicture(`${out}/000007.png`)).toBe(lit);

  // The Wall lists the pins that clips lack and sets them clip after clip.
  await page.goto(`/p/${project}/wall`);
  await expect(page.locator('button[data-clip]')).toHaveCount(2);
  await page.keyboard.press('Control+a');
  await pick(page.getByLabel('Assign a look to the chosen clips'), await versionOf(page, lookId));
  await page.getByRole('button', { name: 'pins', exact: true }).click();
  const panel = page.getByRole('complementary', { name: 'Pins' });
  await expect(panel).toContainText('2 of 4 not set');
  await expect(
    page.locator('button[data-clip="gulls"]').getByTitle(/Point is not set; Cue is not set/),
  ).toBeVisible();
  await panel.getByRole('button', { name: 'set them one after the other' }).click();
  const setting = panel.getByRole('region', { name: 'Point of gulls' });
  await expect(setting.locator('canvas[data-view="pinning"][data-serial]')).toBeVisible();
  const small = (await setting.locator('canvas').boundingBox())!;
  await page.mouse.click(small.x + small.width * 0.25, small.y + small.height * 0.4);
  await expect(panel.locator('[data-pin="gulls point"]')).toContainText('25 40 %');
  await page.getByLabel('Frame of gulls').focus();
  await page.keyboard.press('n');
  await expect(panel.getByRole('region', { name: 'Cue of gulls' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('c');
  await expect(panel).toContainText('0 of 4 not set');
  await expect.poll(async () => (await clip('gulls')).pins['cue']?.length).toBe(1);
  const cue = (await clip('gulls')).pins['cue'] as [{ frame: number }];
  await pick(page.getByRole('combobox', { name: 'at the' }), 'cue');
  await expect(page.locator(`canvas[data-view="tile:${room.id}"]`)).toHaveAttribute(
    'data-frame',
    '7',
  );
  await expect(
    page.locator(`canvas[data-view="tile:${(await clip('gulls')).id}"]`),
  ).toHaveAttribute('data-frame', String(cue[0].frame));
});
