import { expect, test } from '@playwright/test';
import { FOOTAGE, hero, newProject, run, bringFiles } from './project';

interface Clip {
  readonly id: string;
  readonly name: string;
  readonly hash: string;
  readonly accepted: Record<string, unknown>;
  readonly inspection: {
    readonly state: string;
    readonly current: boolean;
    readonly flags: { kind: string; first: number; last: number; worst: number }[];
  };
}

/** A look with one layer of steps on the clip. */
const lookOf = (name: string, steps: { step: string; parameters: object }[]) => ({
  schema: 2,
  name,
  seed: 1,
  bedrock: true,
  dials: [
    { key: 'strength', label: 'Strength', kind: 'number', min: 0, max: 100, unit: '%', value: 100 },
  ],
  layers: [
    {
      key: 'all',
      name: 'all',
      on: true,
      source: 'clip',
      blend: 'normal',
      opacity: { value: 100 },
      steps: steps.map((s, i) => ({ key: `s${i}`, on: true, mix: { value: 100 }, ...s })),
    },
  ],
});

test('clips are inspected under their looks, flags lead to their frames and are accepted with a reason', async ({
  page,
}) => {
  const project = await newProject(page, 'Inspecting');
  // Three seconds at 25 frames a second, flashing five times a second from the middle on.
  const strobe = test.info().outputPath('strobe.mp4');
  await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    "color=c=black:s=320x180:r=25:d=3,geq=lum='if(gte(N,35)*lt(mod(N,5),2),200,40)':cb=128:cr=128",
    '-c:v',
    'libx264',
    '-qp',
    '0',
    strobe,
  ]);
  await bringFiles(page, FOOTAGE('gulls'), strobe);
  const clips = async () =>
    ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: Clip[] })
      .clips;
  const [gulls, flashing] = ['gulls', 'strobe'].map((n) =>
    clips().then((all) => all.find((c) => c.name === n)!),
  );
  const { versionId, lookId } = (await (
    await page.request.post('/api/looks', {
      data: {
        document: lookOf('Bright', [{ step: 'exposure', parameters: { stops: { value: 2 } } }]),
      },
    })
  ).json()) as { versionId: string; lookId: string };
  const put = async (id: string, was: string | null, version: string) =>
    page.request.post(`/api/projects/${project}/clips`, {
      data: { clips: [{ clip: id, was: { version: was }, to: { version } }] },
    });
  // A second of it is enough.
  await page.request.post(`/api/projects/${project}/clips`, {
    data: {
      clips: [{ clip: (await gulls!).id, was: { inOut: null }, to: { inOut: { in: 0, out: 24 } } }],
    },
  });
  await put((await gulls!).id, null, versionId);

  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'flags' }).click();
  const panel = page.getByRole('complementary', { name: 'Flags' });
  const rows = (name: string) => panel.locator(`li[data-flags="${name}"]`);
  for (const name of ['gulls', 'strobe'])
    await expect(rows(name)).toHaveAttribute('data-state', 'done', { timeout: 90_000 });
  const found = (await clips())
    .find((c) => c.name === 'strobe')!
    .inspection.flags.filter((f) => f.kind === 'general-flashes');
  expect(found).toEqual([{ kind: 'general-flashes', first: 35, last: 72, worst: 5 }]);
  await expect(rows('strobe').locator('[data-flag="general-flashes"]')).toContainText(
    'up to 5 a second',
  );
  await expect(rows('gulls').locator('[data-flag="clipped"]')).toBeVisible();
  await expect(page.locator('button[data-clip="gulls"]')).toContainText('flagged');

  // Accepted with a reason, the flag is quiet; undone, it is not.
  const clipped = rows('gulls').locator('[data-flag="clipped"]').first();
  await clipped.getByRole('button', { name: 'accept …' }).click();
  await clipped.getByLabel('Why clipped is meant').fill('the sky burns out');
  await page.keyboard.press('Enter');
  await expect(clipped).toContainText('accepted: the sky burns out');
  await expect
    .poll(async () => Object.keys((await clips()).find((c) => c.name === 'gulls')!.accepted))
    .toEqual(['clipped']);
  await page.getByRole('button', { name: /^undo/ }).click();
  await expect(clipped).not.toContainText('accepted');

  // Another version is inspected again.
  await page.request.post(`/api/looks/${lookId}/versions`, {
    data: {
      document: lookOf('Bright', [{ step: 'exposure', parameters: { stops: { value: -2 } } }]),
      basedOn: 1,
      follow: [(await gulls!).id],
      stay: [],
    },
  });
  await expect(rows('gulls').locator('[data-flag="clipped"]')).toHaveCount(0, { timeout: 90_000 });

  // A flag opens the Bench at its first frame.
  await rows('strobe').getByRole('link', { name: 'flashes' }).click();
  await page.waitForURL(new RegExp(`clip=${(await flashing!).id}&frame=35`));
  await expect(hero(page)).toHaveAttribute('data-frame', '35', { timeout: 60_000 });

  // Pin footage is part of what was inspected: when it is read otherwise, the flags are out of
  // date.
  const edit = (id: string, was: object, to: object) =>
    page.request.post(`/api/projects/${project}/clips`, {
      data: { clips: [{ clip: id, was, to }] },
    });
  const [own, other] = [await gulls!, await flashing!];
  expect(
    (
      await edit(
        own.id,
        { pins: {} },
        { pins: { second: [{ hash: other.hash, start: 0, speed: 1, fit: 'stretch', at: 'end' }] } },
      )
    ).ok(),
  ).toBe(true);
  const current = async () => (await clips()).find((c) => c.id === own.id)!.inspection.current;
  expect(await current()).toBe(false);
  await page.request.post(`/api/projects/${project}/inspections`, {
    data: { clips: [own.id], again: false },
  });
  await expect
    .poll(async () => (await clips()).find((c) => c.id === own.id)!.inspection.state, {
      timeout: 90_000,
    })
    .toBe('done');
  expect(await current()).toBe(true);
  expect(
    (await edit(other.id, { reframe: null }, { reframe: { x: 0.4, y: 0.5, closer: 120 } })).ok(),
  ).toBe(true);
  expect(await current()).toBe(false);
});
