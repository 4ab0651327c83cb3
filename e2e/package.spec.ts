import { expect, test } from '@playwright/test';
import { readFile, writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import {
  bring,
  digestOf,
  digestOfPicture,
  hero,
  newProject,
  parked,
  rendered,
  shippedLook,
  bringFiles,
} from './project';

test('a look goes as one file to an empty project and gives the same pixels there', async ({
  page,
}) => {
  // On the sending side: an edited look, packed with pictures.
  const home = await newProject(page, 'Home');
  await bring(page, 'skyline');
  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${home}/bench?look=${look}`);
  await parked(page);
  await page
    .getByRole('region', { name: 'Dials' })
    .getByRole('slider', { name: 'Bloom' })
    .fill('81');
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  // Saving leaves the Bench as it is, with its history.
  await expect(page.getByRole('button', { name: /^undo/ })).toContainText('Bloom');
  await parked(page);
  await page.waitForTimeout(700);
  const [frame, shown] = [
    (await hero(page).getAttribute('data-frame'))!,
    await digestOf(page, 'hero'),
  ];
  await page.goto(`/p/${home}/shelf`);
  const own = page.locator('li[data-look="Soft Lens"]').filter({ hasText: '2 versions' }).last();
  await own.getByRole('button').click();
  const panel = page.getByRole('complementary', { name: 'Soft Lens' });
  await expect(panel).toContainText('v2');
  // Its picture, and what each dial does over its range.
  await expect(panel.getByRole('img', { name: 'Soft Lens, large' })).toBeVisible({
    timeout: 60_000,
  });
  await expect(panel.getByRole('img', { name: 'Bloom at 100 %' })).toBeVisible({ timeout: 60_000 });
  // Applied to a clip and removed from here.
  const toggle = panel.getByRole('button', { name: 'skyline', exact: true });
  const pressed = await toggle.getAttribute('aria-pressed');
  await toggle.click();
  await expect(toggle).toHaveAttribute('aria-pressed', pressed === 'true' ? 'false' : 'true');
  await toggle.click();
  await expect(toggle).toHaveAttribute('aria-pressed', pressed!);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    panel.getByRole('button', { name: 'export' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('soft-lens-v2.wabisabi');
  const path = test.info().outputPath('soft-lens-v2.wabisabi');
  await file.saveAs(path);

  // On the receiving side: previewed on its clips before it is taken.
  const away = await newProject(page, 'Away');
  await page.goto(`/p/${away}/shelf`);
  await page.getByLabel('Look file').setInputFiles(path);
  const preview = page.getByRole('dialog', { name: 'Import Soft Lens' });
  await expect(preview).toContainText('This project has no clips yet');
  await expect(
    preview.getByRole('img', { name: /skyline, where the look was made/ }),
  ).toBeVisible();
  await preview.getByRole('button', { name: 'leave it' }).click();
  await bring(page, 'skyline');
  await page.goto(`/p/${away}/shelf`);
  await page.getByLabel('Look file').setInputFiles(path);
  await expect(preview.locator('canvas[data-view^="preview:"][data-serial]')).toBeVisible();
  const [answer] = await Promise.all([
    page.waitForResponse((r) => r.request().method() === 'POST' && r.url().endsWith('/api/looks')),
    preview.getByRole('button', { name: 'put on the Shelf' }).click(),
  ]);
  await expect(preview).toHaveCount(0);
  const taken = (await answer.json()) as { lookId: string };

  await page.goto(`/p/${away}/bench?look=${taken.lookId}`);
  await parked(page);
  expect(await hero(page).getAttribute('data-frame')).toBe(frame);
  await expect.poll(() => digestOf(page, 'hero')).toBe(shown);
  // The command line accepts the package itself.
  const out = test.info().outputPath('frames');
  await rendered(path, 'skyline', out, '--frames', frame, '--size', '960x540', '--depth', '8');
  expect(await digestOfPicture(`${out}/${frame.padStart(6, '0')}.png`)).toBe(shown);

  // A file that is not a look gets an error, and nothing reaches the Shelf.
  const damaged = test.info().outputPath('damaged.wabisabi');
  await writeFile(damaged, Buffer.from([0x50, 0x4b, 3, 4, 1, 2, 3]));
  await page.goto(`/p/${away}/shelf`);
  await page.getByLabel('Look file').setInputFiles(damaged);
  await expect(page.getByRole('alert')).toContainText('the package is damaged');
});

test('a look goes as a card: a picture that any program shows, dropped on another Shelf', async ({
  page,
}) => {
  const home = await newProject(page, 'Cards');
  await bring(page, 'gulls');
  await shippedLook(page, 'silt');
  await page.goto(`/p/${home}/shelf`);
  await page.locator('li[data-look="Silt"]').last().getByRole('button').click();
  const panel = page.getByRole('complementary', { name: 'Silt' });
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    panel.getByRole('button', { name: 'card', exact: true }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/^silt-v\d+\.png$/);
  const path = test.info().outputPath('silt.png');
  await file.saveAs(path);
  const { width, height, format } = await sharp(path).metadata();
  expect([format, width]).toEqual(['png', 1200]);
  expect(height).toBeGreaterThan(675);

  // Dropped on the Shelf it is imported as a look; on another view a message says where it belongs,
  // and it is not imported as footage.
  const drop = async () => {
    const bytes = (await readFile(path)).toString('base64');
    await page.evaluate((b) => {
      const data = new DataTransfer();
      data.items.add(
        new File([Uint8Array.from(atob(b), (c) => c.charCodeAt(0))], 'silt.png', {
          type: 'image/png',
        }),
      );
      window.dispatchEvent(
        new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }),
      );
    }, bytes);
  };
  await drop();
  const preview = page.getByRole('dialog', { name: 'Import Silt' });
  await expect(preview).toBeVisible();
  await preview.getByRole('button', { name: 'leave it' }).click();
  await page.goto(`/p/${home}/wall`);
  await expect(page.getByRole('button', { name: 'choose all' })).toBeVisible();
  await drop();
  await expect(page.getByRole('status').filter({ hasText: 'silt.png is a look' })).toContainText(
    'drop it on the Shelf',
  );
  const { imports } = (await (await page.request.get(`/api/projects/${home}`)).json()) as {
    imports: unknown[];
  };
  expect(imports).toEqual([]);
  // A picture without a look says so.
  await page.goto(`/p/${home}/shelf`);
  const plain = test.info().outputPath('plain.png');
  await sharp(path).png().toFile(plain);
  await page.getByLabel('Look file').setInputFiles(plain);
  await expect(page.getByRole('alert')).toContainText('carries no look');
});

test('a look goes with its plates, which are brought in and set where it arrives', async ({
  page,
}) => {
  const home = await newProject(page, 'Home of a plate');
  await bring(page, 'gulls');
  await bringFiles(page, 'demo/plates/torn-paper.png');
  const look = await shippedLook(page, 'torn-paper-run');
  type Clip = { id: string; name: string; hash: string; pins: Record<string, { hash: string }[]> };
  const projectOf = async (id: string) =>
    (await (await page.request.get(`/api/projects/${id}`)).json()) as {
      clips: Clip[];
      plates: Clip[];
    };
  const [gulls, paper] = ['gulls', 'torn-paper'].map(async (name) =>
    (await projectOf(home)).clips.find((c) => c.name === name)!,
  );
  const pins = { paper: [{ hash: (await paper!).hash, start: 0, speed: 1 }] };
  const edits = [
    { clip: (await paper!).id, was: { role: 'clip' }, to: { role: 'plate' } },
    { clip: (await gulls!).id, was: { pins: {} }, to: { pins } },
  ];
  expect(
    (await page.request.post(`/api/projects/${home}/clips`, { data: { clips: edits } })).ok(),
  ).toBe(true);
  const shelfOf = async (project: string) => {
    await page.goto(`/p/${project}/shelf`);
    await expect(page.locator('li[data-look]').first()).toBeVisible();
  };
  await shelfOf(home);
  const mine = (await (await page.request.get('/api/looks')).json()) as {
    id: string;
    name: string;
  }[];
  expect(mine.some((l) => l.id === look)).toBe(true);
  await page.locator('li[data-look="Torn Paper Run"]').last().getByRole('button').click();
  const panel = page.getByRole('complementary', { name: 'Torn Paper Run' });
  await panel.getByLabel('with its plates').check();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    panel.getByRole('button', { name: 'export' }).click(),
  ]);
  const path = test.info().outputPath('torn.wabisabi');
  await file.saveAs(path);

  const away = await newProject(page, 'Where the plate goes');
  await bring(page, 'kelp');
  await shelfOf(away);
  await page.getByLabel('Look file').setInputFiles(path);
  const preview = page.getByRole('dialog', { name: 'Import Torn Paper Run' });
  await expect(preview).toContainText('brings along: torn-paper.png');
  await preview.getByRole('button', { name: 'put on the Shelf' }).click();
  await expect
    .poll(async () => (await projectOf(away)).plates.map((p) => p.name), { timeout: 60_000 })
    .toEqual(['torn-paper']);
  await expect
    .poll(
      async () =>
        (await projectOf(away)).clips.find((c) => c.name === 'kelp')!.pins['paper']?.[0]?.hash,
    )
    .toBe(pins.paper[0]!.hash);
});
