/** Shared by the journeys about time: a look that acts at instants, and the playhead. */
import { expect, type Page } from '@playwright/test';
import { parked } from './project';

export const strength = {
  key: 'strength',
  label: 'Strength',
  kind: 'number',
  min: 0,
  max: 100,
  unit: '%',
  value: 100,
};
/** A look of one layer with a brightening on it; returns its id. */
export async function brightLook(
  page: Page,
  name: string,
  more: object = {},
  layerMore: object = {},
): Promise<string> {
  const step = {
    key: 'exposure',
    step: 'exposure',
    on: true,
    mix: { value: 100 },
    parameters: { stops: { value: 1.5 } },
  };
  const layer = {
    key: 'light',
    name: 'light',
    on: true,
    source: 'below',
    blend: 'normal',
    opacity: { value: 100 },
    steps: [step],
    ...layerMore,
  };
  const document = {
    schema: 3,
    name,
    seed: 1,
    bedrock: true,
    layers: [layer],
    dials: [strength],
    ...more,
  };
  const made = await page.request.post('/api/looks', { data: { document } });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { lookId: string }).lookId;
}
export const frame = (page: Page) => page.getByRole('slider', { name: 'Frame' });
export async function goTo(page: Page, to: number): Promise<void> {
  await frame(page).focus();
  const now = Number(await frame(page).getAttribute('aria-valuenow'));
  const key = to > now ? 'ArrowRight' : 'ArrowLeft';
  for (let left = Math.abs(to - now); left > 0; left -= left >= 10 ? 10 : 1)
    await page.keyboard.press(left >= 10 ? `Shift+${key}` : key);
  await expect(frame(page)).toHaveAttribute('aria-valuenow', String(to));
  await parked(page);
}
