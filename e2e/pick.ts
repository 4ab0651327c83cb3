import { expect, type Locator } from '@playwright/test';

/** Opens a layer; an opened look shows none at first. */
export const unfold = (layer: Locator): Promise<void> =>
  layer.getByRole('button', { expanded: false }).first().click();

/** Opens a list and chooses an entry, by id or by text. */
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

/** Types a number into a field that selects its content when focused. */
export async function type(field: Locator, figure: string): Promise<void> {
  await field.click();
  await expect(field).toBeFocused();
  await field.fill(figure);
  await expect(field).toHaveValue(figure);
  await field.press('Enter');
}
