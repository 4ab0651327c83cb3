import type { Locator } from '@playwright/test';

/** Opens a layer: none is when a look is opened. */
export const unfold = (layer: Locator): Promise<void> => layer.getByRole('button', { expanded: false }).first().click();

/** Opens a list of choices and takes one: by its id, or by its words. */
export async function pick(where: Locator, what: string | { readonly label: string }): Promise<void> {
  await where.click();
  const page = where.page();
  const option =
    typeof what === 'string' ? page.locator(`[role="option"][data-value="${what}"]`) : page.getByRole('option', { name: what.label, exact: true });
  await option.first().click();
}
