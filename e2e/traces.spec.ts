import { expect, type Page, test } from '@playwright/test';
import { pick } from './pick';
import { bring, delivered, hero, newProject, parked, putOn, settled } from './project';

const LOOK = {
  schema: 4,
  name: 'Lamp',
  seed: 1,
  bedrock: true,
  dials: [
    { key: 'strength', label: 'Strength', kind: 'number', min: 0, max: 100, unit: '%', value: 100 },
  ],
  pins: [{ key: 'lamp', label: 'Lamp', kind: 'point', many: false }],
  layers: [
    {
      key: 'lamp',
      name: 'lamp',
      on: true,
      source: 'fill',
      blend: 'add-light',
      opacity: { value: 100 },
      steps: [
        {
          key: 'glow',
          step: 'radial-gradient',
          on: true,
          mix: { value: 100 },
          parameters: { centre: { pin: 'lamp' }, radius: { value: 160 }, cover: { value: 60 } },
        },
      ],
    },
  ],
};
interface Clip {
  readonly id: string;
  readonly pins: Record<string, object[]>;
  readonly traces: readonly { id: string; marks: object[]; state: string; of: string }[];
}
const clipOf = async (page: Page, project: string): Promise<Clip> =>
  ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: Clip[] })
    .clips[0]!;

test('what lies under a pin is followed through a clip, corrected, kept by a delivery, and taken away', async ({
  page,
}) => {
  const project = await newProject(page, 'Traced');
  await bring(page, 'skyline');
  const made = await page.request.post('/api/looks', { data: { document: LOOK } });
  const { lookId } = (await made.json()) as { lookId: string };
  const { id: clip } = await clipOf(page, project);
  await putOn(page, project, lookId);
  await page.goto(`/p/${project}/bench?look=${lookId}&clip=${clip}&frame=20`);
  await parked(page);

  // Only what is placed can be followed.
  const follow = page.getByRole('button', { name: 'follow it' });
  await expect(follow).toBeDisabled();
  await page.getByRole('button', { name: 'place', exact: true }).click();
  const box = (await hero(page).boundingBox())!;
  await page.mouse.click(box.x + 0.42 * box.width, box.y + 0.48 * box.height);
  await expect(follow).toBeEnabled();
  await follow.click();
  const state = page.getByRole('status', { name: 'State of Lamp' });
  await expect(state).toContainText('sure on', { timeout: 60_000 });
  const first = await clipOf(page, project);
  expect(first.pins['lamp']).toEqual([{ trace: first.traces[0]!.id }]);

  // The lane goes to frames; the lamp moves with the picture.
  const lane = page.getByRole('slider', { name: 'Frames of Lamp' });
  await expect(lane).toHaveAttribute('aria-valuetext', 'frame 20, marked');
  const marked = await settled(page, 'hero');
  const along = (await lane.boundingBox())!;
  await page.mouse.click(along.x + 0.8 * along.width, along.y + along.height / 2);
  await expect(lane).not.toHaveAttribute('aria-valuetext', 'frame 20, marked');
  expect(await settled(page, 'hero')).not.toBe(marked);

  // A delivery keeps what was followed when it was ordered.
  const before = await delivered(page, project, clip, [320, 180]);

  // A second mark, undone by name and done again.
  await page.getByRole('button', { name: 'mark here' }).click();
  await page.mouse.click(box.x + 0.6 * box.width, box.y + 0.3 * box.height);
  await expect.poll(async () => (await clipOf(page, project)).traces[0]!.marks.length).toBe(2);
  await page.getByRole('button', { name: /undo mark Lamp/ }).click();
  await expect.poll(async () => (await clipOf(page, project)).traces[0]!.marks.length).toBe(1);
  expect((await clipOf(page, project)).traces[0]!.of).toBe(first.traces[0]!.of);
  await page.getByRole('button', { name: 'redo', exact: true }).click();
  await expect.poll(async () => (await clipOf(page, project)).traces[0]!.marks.length).toBe(2);

  // By hand it goes straight from mark to mark, on every frame.
  await page.getByLabel('Lamp is followed between its marks').uncheck();
  await expect(state).toHaveText('sure on every frame');
  const after = await delivered(page, project, clip, [320, 180]);
  expect(after).toHaveLength(before.length);
  expect(after[20]).toBe(before[20]);
  expect(after.filter((h, i) => h !== before[i]).length).toBeGreaterThan(before.length / 4);

  await page.getByRole('button', { name: 'Take the trace Lamp away' }).click();
  await expect(state).toBeHidden();
  expect(await clipOf(page, project)).toMatchObject({ pins: {}, traces: [] });
  // It comes back with its marks, and into the pin that took it.
  await page.getByRole('button', { name: /undo take Lamp away/ }).click();
  await expect(state).toHaveText('sure on every frame');
  const back = await clipOf(page, project);
  expect(back.traces).toMatchObject([{ id: first.traces[0]!.id }]);
  expect(back.pins).toEqual(first.pins);
});

test('an oval is placed, carried by what it lies on, corrected by its handles, and lost as the look says', async ({
  page,
}) => {
  const project = await newProject(page, 'Carried');
  await bring(page, 'skyline');
  const [lamp] = LOOK.pins,
    [layer] = LOOK.layers;
  const document = {
    ...LOOK,
    pins: [{ ...lamp, kind: 'oval' }],
    layers: [
      {
        ...layer,
        steps: layer!.steps.map((s) => ({
          ...s,
          parameters: {
            ...s.parameters,
            radius: { pin: 'lamp', of: 'width', times: 100, without: 160 },
          },
        })),
      },
    ],
  };
  const made = await page.request.post('/api/looks', { data: { document } });
  expect(made.status(), await made.text()).toBe(201);
  const { lookId } = (await made.json()) as { lookId: string };
  const { id: clip } = await clipOf(page, project);
  await putOn(page, project, lookId);
  await page.goto(`/p/${project}/bench?look=${lookId}&clip=${clip}&frame=20`);
  await parked(page);

  // Its middle, then how far it reaches.
  await page.getByRole('button', { name: 'place', exact: true }).click();
  await expect(page.getByText('click its middle, then how far it reaches')).toBeVisible();
  const box = (await hero(page).boundingBox())!;
  await page.mouse.click(box.x + 0.42 * box.width, box.y + 0.48 * box.height);
  const unset = await settled(page, 'hero');
  await page.mouse.click(box.x + 0.5 * box.width, box.y + 0.6 * box.height);
  await expect.poll(async () => (await clipOf(page, project)).pins['lamp']?.length).toBe(1);
  const [oval] = (await clipOf(page, project)).pins['lamp'] as { rx: number; ry: number }[];
  expect(oval!.rx).toBeCloseTo((0.08 * 16) / 9, 1);
  expect(oval!.ry).toBeCloseTo(0.12, 1);
  // Its size is the light's.
  await expect.poll(() => settled(page, 'hero')).not.toBe(unset);

  await page.getByRole('button', { name: 'follow it' }).click();
  const state = page.getByRole('status', { name: 'State of Lamp' });
  await expect(state).toContainText('sure on', { timeout: 90_000 });
  expect((await clipOf(page, project)).traces[0]).toMatchObject({ kind: 'oval' });

  // On another frame its handle marks it there.
  const lane = page.getByRole('slider', { name: 'Frames of Lamp' }),
    along = (await lane.boundingBox())!;
  await page.mouse.click(along.x + 0.7 * along.width, along.y + along.height / 2);
  await settled(page, 'hero');
  const middle = page.getByRole('button', { name: 'Lamp middle' });
  await middle.focus();
  await middle.press('Shift+ArrowRight');
  await middle.press('Shift+ArrowRight');
  await middle.blur();
  await expect.poll(async () => (await clipOf(page, project)).traces[0]!.marks.length).toBe(2);
  await page.getByRole('button', { name: /undo mark Lamp/ }).click();
  await expect.poll(async () => (await clipOf(page, project)).traces[0]!.marks.length).toBe(1);

  // What becomes of it while it is lost is the look's.
  await pick(page.getByLabel('Where Lamp is lost'), 'fade');
  await expect(page.getByLabel('Frames over which Lamp fades, typed')).toHaveValue(/^4/);
  await expect(page.getByRole('button', { name: /undo where Lamp is lost/ })).toBeVisible();
});

test('a trace asks for marks and names in words, and a delivery for tracks that are made', async ({
  page,
}) => {
  const project = await newProject(page, 'Not followed');
  await bring(page, 'kelp');
  const made = await page.request.post('/api/looks', { data: { document: LOOK } });
  const { lookId } = (await made.json()) as { lookId: string };
  const { id: clip } = await clipOf(page, project);
  const post = (data: object) => page.request.post(`/api/clips/${clip}/traces`, { data });
  const refused = await post({ name: 'x', follow: true, marks: [] });
  expect(refused.status()).toBe(422);
  expect(((await refused.json()) as { detail: string }).detail).toContain('a trace needs a mark');
  expect((await post({ name: '', follow: true, marks: [{ frame: 0, x: 0, y: 0 }] })).status()).toBe(
    422,
  );
  const answer = await post({ name: 'Leaf', follow: true, marks: [{ frame: 9, x: 0.4, y: 0.5 }] });
  const { id } = (await answer.json()) as { id: string };
  // Stopped before it is done, it has no track.
  expect((await page.request.delete(`/api/traces/${id}/track`)).status()).toBe(202);
  await page.request.patch(`/api/traces/${id}`, {
    data: { marks: [{ frame: 3, x: 0.1, y: 0.9 }] },
  });
  await page.request.delete(`/api/traces/${id}/track`);
  expect((await page.request.get(`/api/traces/${id}/track`)).status()).toBe(404);
  await putOn(page, project, lookId);
  const put = await page.request.post(`/api/projects/${project}/clips`, {
    data: { clips: [{ clip, was: { pins: {} }, to: { pins: { lamp: [{ trace: id }] } } }] },
  });
  expect(put.status(), await put.text()).toBe(200);
  const ordered = await page.request.post(`/api/projects/${project}/deliveries`, {
    data: { clips: [clip], format: 'mkv', width: 320, height: 180 },
  });
  expect(ordered.status()).toBe(409);
  expect(((await ordered.json()) as { detail: string }).detail).toContain(
    'not followed to its end',
  );
  const none = '00000000-0000-4000-8000-000000000000';
  expect((await page.request.get(`/api/traces/${none}/track`)).status()).toBe(404);
  expect((await page.request.delete(`/api/traces/${none}`)).status()).toBe(404);
});
