import { visit, done, clip, look, project } from './.look.mjs';
await visit(`/p/${project}/bench?look=${look('Silt')}&clip=${clip('deck-dancer')}`, async (page) => {
  await page.waitForTimeout(4000);
  console.log(await page.locator('canvas[data-view^="stratum"]').evaluateAll((c) => c.map((x) => x.dataset.view + ' ' + x.dataset.serial)));
  await page.getByLabel('Add a layer from').selectOption('clip');
  await page.waitForTimeout(3000);
  console.log(await page.locator('canvas[data-view^="stratum"]').evaluateAll((c) => c.map((x) => x.dataset.view + ' ' + x.dataset.serial+' '+x.style.visibility)));
}, '/tmp/a1.png');
await done();
