import AxeBuilder from '@axe-core/playwright';
import { join } from 'node:path';
import { type Page } from '@playwright/test';
import { expect, test } from './shop.ts';

const FILE = join(import.meta.dirname, '../demo/supplier-files/northgate-trade-autumn.csv');

/** What axe (the rules of WCAG 2 A and AA) finds serious or critical on the page. */
async function serious(page: Page): Promise<string[]> {
  // A sheet that is not drawn yet has a row without headings for a moment.
  await page.waitForFunction(() =>
    [...document.querySelectorAll('.header-rgRow.actual-rgRow')].every(({ children }) => children.length > 0),
  );
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'])
    .analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .slice(0, 3)
          .map(({ html }) => html.slice(0, 120))
          .join(' | ')}`,
    );
}

test('axe finds nothing serious on any screen', async ({ workbench, shop, page }) => {
  // A dozen screens, each looked through from top to bottom.
  test.slow();
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  await expect(workbench.rows().first()).toBeVisible();
  expect(await serious(page), 'range').toEqual([]);

  await (await workbench.cell(0, 'price')).click();
  await page.keyboard.type('1.00');
  await page.keyboard.press('Enter');
  await expect(workbench.proofBar()).toBeVisible();
  await expect(page.getByText('The shopper pays')).toBeVisible();
  expect(await serious(page), 'range with a row in hand and a proof').toEqual([]);

  await page.getByRole('button', { name: 'By product' }).click();
  await page.locator('.cell-fold').first().click();
  await expect(page.locator('.cell-within').first()).toBeVisible();
  expect(await serious(page), 'range by product').toEqual([]);
  await page.getByRole('button', { name: 'By SKU' }).click();

  await page.goto(`${shop.address}/rule`);
  await page.getByLabel('by, Step 1').fill('5 %');
  await expect(page.locator('.tally')).toBeVisible();
  expect(await serious(page), 'rule').toEqual([]);

  await page.goto(`${shop.address}/proof`);
  await expect(page.getByRole('button', { name: /^Land / })).toBeVisible();
  expect(await serious(page), 'proof').toEqual([]);
  await page.getByRole('button', { name: /^Land / }).click();
  await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
  await page.getByRole('button', { name: 'Cell edited', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Cell edited' })).toBeVisible();
  expect(await serious(page), 'journal').toEqual([]);

  await page.goto(`${shop.address}/calendar`);
  await page.getByRole('button', { name: /^Trade terms/ }).click();
  await expect(page.getByRole('button', { name: 'Open its goods' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(page.getByLabel('day', { exact: true })).toBeFocused();
  expect(await serious(page), 'calendar, and choosing a moment').toEqual([]);
  await page.keyboard.press('Escape');

  await page.goto(`${shop.address}/lists/attribute`);
  await page.locator('.rgCell').first().click();
  await expect(page.locator('ivory-thing-slip dl')).toBeVisible();
  expect(await serious(page), 'lists').toEqual([]);
  await page.goto(`${shop.address}/range`);
  await page.getByRole('button', { name: 'Change all of these' }).click();
  await expect(page.locator('ivory-one-step')).toBeVisible();
  expect(await serious(page), 'one step for all').toEqual([]);

  await page.getByRole('treeitem').first().hover();
  await page.getByRole('button', { name: 'What to do with Ink' }).click();
  await expect(page.getByRole('menu')).toBeVisible();
  expect(await serious(page), 'what to do with a category').toEqual([]);
  await page.keyboard.press('Escape');
  await page.goto(`${shop.address}/new`);
  await page.getByLabel('name', { exact: true }).fill('Quill');
  expect(await serious(page), 'new product').toEqual([]);
  await page.goto(`${shop.address}/outlets`);
  await page.getByRole('button', { name: 'Try another formula' }).click();
  await page.getByLabel('Formula', { exact: true }).fill('10 % more, to .99');
  await expect(page.getByText('higher than in the shop')).toBeVisible();
  expect(await serious(page), 'outlets').toEqual([]);

  for (const folio of ['category/1', 'assortment/1', 'shop/1', 'product/1']) {
    await page.goto(`${shop.address}/folio/${folio}`);
    await expect(page.locator('section').first()).toBeVisible();
    expect(await serious(page), `folio ${folio}`).toEqual([]);
  }

  for (const desk of ['Stock', 'Findability', 'Outlets'] as const) {
    await workbench.desk(desk);
    await expect(page.locator('main h1, main revogr-header .rgHeaderCell').first()).toBeVisible();
    expect(await serious(page), desk).toEqual([]);
  }

  await workbench.desk('Range');
  await page.locator('input[type=file]').setInputFiles(FILE);
  await expect(page.getByRole('heading', { name: /Import/ })).toBeVisible();
  expect(await serious(page), 'import').toEqual([]);
  await page.getByRole('button', { name: 'Read the file into a proof' }).click();
  await expect(page.getByText('Results file')).toBeVisible();
  expect(await serious(page), 'proof of an import').toEqual([]);

  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await serious(page), 'keys').toEqual([]);

  await page.goto(shop.storefront);
  expect(await serious(page), 'storefront, a category').toEqual([]);
  await page.locator('.goods a').first().click();
  expect(await serious(page), 'storefront, a product').toEqual([]);
  await page.getByRole('button', { name: 'Put into the basket' }).click();
  await expect(page.getByRole('button', { name: 'Place the order' })).toBeVisible();
  expect(await serious(page), 'storefront, the basket').toEqual([]);
});
