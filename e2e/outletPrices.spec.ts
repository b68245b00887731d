import { expect, test } from './shop.ts';

test('prices of an outlet are tried, given, seen at the SKU and in the file, taken back; and shipping is told', async ({
  workbench,
  shop,
  page,
}) => {
  const prices = page.locator('ivory-outlet-prices');

  await test.step('a formula is tried over all goods while it is typed, and a number opens', async () => {
    await workbench.desk('Outlets');
    await expect(prices).toContainText('As in the shop');
    await prices.getByRole('button', { name: 'Try another formula' }).click();
    const formula = prices.getByLabel('Formula', { exact: true });
    await formula.fill('10 %');
    await expect(prices.getByText(/cannot be read from “10 %”/)).toBeVisible();
    await formula.fill('30 % less, to .99');
    const below = prices.getByRole('button', { name: /below cost$/ });
    await expect(below).toBeVisible();
    const skus = Number((await below.textContent())!.replace(/\D/g, ''));
    await below.click();
    await expect.poll(() => workbench.skus()).toBe(skus);
  });

  await test.step('one is given by a proof, and stands at the SKU, in the sheet, the calendar and the file', async () => {
    await workbench.desk('Outlets');
    await prices.getByRole('button', { name: 'Try another formula' }).click();
    await prices.getByLabel('Formula', { exact: true }).fill('+8 %, up to .99');
    await prices.getByLabel('Kept as').fill('Finder prices');
    await prices.getByLabel('Kept as').press('Enter');
    await expect(prices).toContainText('proposed: Finder prices');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(prices).toContainText('8 % more, up to .99, of the current price (“Finder prices”).');
    await workbench.desk('Prices');
    await page.getByRole('button', { name: 'Ask for everything' }).click();
    await workbench.ask('price on Lamplight Finder > current price');
    await expect.poll(() => workbench.skus()).toBe(1200);
    await (await workbench.cell(0, 'name')).click();
    await expect(page.getByText(/\.99 on Lamplight Finder/)).toBeVisible();
    await page.getByRole('link', { name: 'Calendar' }).click();
    await expect(page.getByRole('link', { name: /^Finder prices, prices on Lamplight Finder/ })).toBeVisible();
    await workbench.desk('Outlets');
    await page.getByRole('button', { name: 'Write the file' }).click();
    const saved = page.getByRole('link', { name: 'Save' }).first();
    await expect(saved).toBeVisible();
    const file = await (await fetch(`${shop.address}${await saved.getAttribute('href')}`)).text();
    const asked = [...file.matchAll(/<l:asks>([^<]*)</g)].map(([, price]) => price!);
    expect(asked.length).toBeGreaterThan(500);
    expect(asked.filter((price) => !price.endsWith('.99'))).toEqual([]);
  });

  await test.step('the shop’s own prices come back', async () => {
    await prices.getByRole('button', { name: 'Propose prices as in the shop' }).click();
    // What an outlet is told to ask goes: that waits until a person agrees.
    await workbench.proofBar().getByRole('link', { name: 'Look through' }).click();
    await page.getByRole('button', { name: /for everybody from then on – stops the landing/ }).click();
    await page.getByRole('button', { name: 'Agree to this line' }).click();
    await expect(page.getByText('You agreed to these.')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await workbench.desk('Outlets');
    await expect(prices).toContainText('As in the shop');
  });

  await test.step('what two of something cost to ship is told on its page, and in the basket', async () => {
    await workbench.desk('Range');
    await page.getByRole('button', { name: 'Ask for everything' }).click();
    await workbench.ask('in Ink stock > 5');
    await (await workbench.cell(0, 'name')).click();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Shift+E');
    const shipping = page.locator('ivory-shipping-cost');
    await shipping.getByLabel('How many pieces').fill('2');
    await shipping.locator('nz-select.country').click();
    await page.keyboard.type('Irel');
    await page.keyboard.press('Enter');
    await expect(shipping).toContainText('£7.00');
    await expect(shipping).toContainText('the first at £5.00, 1 further at £2.00');
    await shipping.locator('nz-select.country').click();
    await page.keyboard.type('Japan');
    await page.keyboard.press('Enter');
    await expect(shipping).toContainText('the first at £18.00');
  });
});
