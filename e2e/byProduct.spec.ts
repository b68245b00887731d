import { expect, test } from './shop.ts';

test('products are folded out, edited as a whole and one by one, by keyboard, and an order takes from their stock', async ({
  workbench,
  shop,
  page,
}) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  await workbench.ask('name contains "Alder Iron Gall"');
  await expect(workbench.counts()).toContainText('1 product · 10 SKUs');
  await workbench.question().blur();
  await page.keyboard.press('s');
  await expect(page.getByRole('button', { name: 'By product' })).toHaveAttribute('aria-pressed', 'true');
  await expect(workbench.rows()).toHaveCount(1);

  await test.step('a row says what its SKUs differ in', async () => {
    await expect(await workbench.cell(0, 'price')).toHaveText('8.99–13.00');
    await expect(await workbench.cell(0, 'colour')).toHaveText('Blue, Black, Oxblood + 2');
  });

  await test.step('Alt and an arrow folds its SKUs out, and they stay out through an edit of all of them', async () => {
    await (await workbench.cell(0, 'price')).click();
    await page.keyboard.press('Alt+ArrowDown');
    await expect(workbench.rows()).toHaveCount(11);
    await expect(await workbench.cell(1, 'price')).toHaveText('8.99');
    await page.keyboard.type('+10 %');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('10 changes on 10 SKUs');
    await expect(await workbench.cell(0, 'price')).toHaveText('8.99–13.009.89–14.30');
    await expect(await workbench.cell(1, 'price')).toHaveText('8.999.89');
  });

  await test.step('an edit of one SKU is told at its product too', async () => {
    await (await workbench.cell(2, 'stock')).click();
    await page.keyboard.type('40');
    await page.keyboard.press('Enter');
    await expect(await workbench.cell(0, 'stock')).toContainText('1 of 10 changed');
    await page.getByRole('button', { name: 'Land', exact: true }).click();
    await expect(workbench.proofBar()).toBeHidden();
    await expect(await workbench.cell(0, 'price')).toHaveText('9.89–14.30');
    await expect(workbench.rows()).toHaveCount(11);
  });

  await test.step('an edit of a product is of those SKUs alone that answer the question', async () => {
    await workbench.ask('colour is Blue');
    await expect(workbench.counts()).toContainText('1 product · 2 SKUs');
    await expect(page.locator('.cell-fold')).toHaveText('▸ 2 of 10');
    await (await workbench.cell(0, 'stock')).click();
    await page.keyboard.type('7');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('2 changes on 2 SKUs');
    await page.getByRole('button', { name: 'Land', exact: true }).click();
    await expect(await workbench.cell(0, 'stock')).toHaveText('7');
  });

  await test.step('a shopper orders two, and the sheet shows what is left', async () => {
    const visit = await page.context().newPage();
    await visit.goto(`${shop.storefront}/search?q=alder+iron+gall`);
    await visit.locator('.goods a').first().click();
    await visit.getByLabel('How many').fill('2');
    await visit.getByRole('button', { name: 'Put into the basket' }).click();
    await visit.getByRole('button', { name: 'Place the order' }).click();
    await expect(visit.getByRole('heading', { name: 'Thank you' })).toBeVisible();
    await visit.close();
    await expect(await workbench.cell(0, 'stock')).toHaveText('5–7');
    await page.keyboard.press('Escape');
    await page.keyboard.press('j');
    await expect(page.getByText('Order 1 of the shop')).toBeVisible();
  });
});
