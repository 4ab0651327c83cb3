import { expect, type Locator } from '@playwright/test';

/** Opens a layer: none is when a look is opened. */
export const unfold = (layer: Locator): Promise<void> =>
  layer.getByRole('button', { expanded: false }).first().click();

/** Opens a list of choices and takes one: by its id, or by its words. */
export async function pick(
  where: Locator,
  what: string | { readonly label: string },
): Promise<void> {
  await where.click();
  const page = where.page();
  const option =
    typeof what === 'string'
      ? page.locator(`[role="option"][data-value="${what}"]`)
      : page.getByRole('option', { name: what.label, exact: true });
  await option.first().click();
}

/** Types a figure into a field that takes what it shows when it gets the focus. */
export async function type(field: Locator, figure: string): Promise<void> {
  await field.click();
  await expect(field).toBeFocused();
  await field.fill(figure);
  await expect(field).toHaveValue(figure);
  await field.press('Enter');
}
