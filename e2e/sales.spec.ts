import { Workbench, expect, test } from './shop.ts';

const DAY_MS = 24 * 60 * 60 * 1_000;
/** A day of the shop's calendar, so many days from now. */
const day = (fromNow: number): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/London' }).format(Date.now() + fromNow * DAY_MS);

test('a sale is planned on a branch with goods left out, seen in the calendar and in the shop of a coming day, and moved', async ({
  workbench,
  shop,
  page,
}) => {
  test.slow();
  const field = (label: string) => page.locator('ivory-thing-slip').getByLabel(label, { exact: true });
  const set = async (label: string, text: string) => {
    await field(label).fill(text);
    await field(label).press('Enter');
  };
  const land = async () => {
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(workbench.proofBar()).toBeHidden();
  };

  await test.step('it is made among the lists, with its days and what it takes off', async () => {
    await workbench.desk('Prices');
    await page.getByRole('link', { name: 'Calendar' }).click();
    await page.getByRole('link', { name: 'Sales as a sheet' }).click();
    await page.getByLabel('New sale').fill('Pen weeks');
    await page.getByRole('button', { name: 'Make it' }).click();
    await page.locator('.rgCell', { hasText: 'Pen weeks' }).first().click();
    await set('from', day(10));
    await set('to', day(30));
    await set('takes off', '45 % to .99');
    await workbench.choose('stands above others', 'yes');
    await workbench.choose('only for', 'Schools');
    await expect(field('takes off')).toHaveValue('45 % less, to .99');
    await land();
  });

  let inSale = 0;
  await test.step('a branch is put in, without two of its goods', async () => {
    await workbench.desk('Prices');
    await workbench.ask('in Pens regular price >= 5.00');
    await expect.poll(() => workbench.skus()).toBeLessThan(1_200);
    inSale = (await workbench.skus()) - 2;
    await (await workbench.cell(0, 'code')).click();
    await page.keyboard.press('Shift+ArrowDown');
    await expect(page.getByText('2 rows in hand')).toBeVisible();
    await page.keyboard.press('Control+Delete');
    await expect.poll(() => workbench.skus()).toBe(inSale);
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: 'Calendar' }).click();
    await page.getByRole('button', { name: /^Pen weeks/ }).click();
    await page.getByRole('button', { name: `Put the ${inSale} SKUs of the working set in` }).click();
    await expect(workbench.proofBar()).toContainText(`${inSale} changes on ${inSale} SKUs`);
    await land();
    await expect(page.getByRole('button', { name: /^Pen weeks/ })).toHaveAccessibleName(new RegExp(`${inSale} SKUs`));
    await page.getByRole('button', { name: 'Open its goods' }).click();
    await expect.poll(() => workbench.skus()).toBe(inSale);
  });

  await test.step('now nothing is reduced by it; on its second day all of it is', async () => {
    await workbench.ask('sale is "Pen weeks"');
    await expect.poll(() => workbench.skus()).toBe(0);
    await page.keyboard.press('Escape');
    await page.keyboard.press('m');
    await page.getByLabel('day', { exact: true }).fill(day(11));
    await page.getByLabel('day', { exact: true }).press('Enter');
    await expect(page.getByText(/^As it will be on/)).toBeVisible();
    // It is for members only: anybody else has the regular price.
    await expect.poll(() => workbench.skus()).toBe(0);
    await page.keyboard.press('m');
    await page.getByLabel('prices as').selectOption('Schools');
    await page.getByRole('button', { name: 'Close' }).click();
    await expect(page.getByText('Prices as Schools has them.')).toBeVisible();
    await expect.poll(() => workbench.skus()).toBe(inSale);
    await expect(await workbench.cell(0, 'sale')).toHaveText('Pen weeks');
    const [price, current] = await Promise.all(
      ['price', 'current'].map(async (heading) => Number(await (await workbench.cell(0, heading)).textContent())),
    );
    expect(current).toBeLessThan(price!);
    await (await workbench.cell(0, 'name')).click();
    await expect(page.locator('.candidates .wins')).toContainText('Pen weeks');
    await expect(page.getByText(/Lowest price of the 30 days before: £/)).toBeVisible();
  });

  await test.step('the shop of that day shows both prices, and that of the day behind its last only the regular one', async () => {
    await workbench.ask('stage is "On sale" stock > 0');
    await expect.poll(() => workbench.skus()).toBeLessThan(inSale);
    await (await workbench.cell(0, 'name')).click();
    const code = (await (await workbench.cell(0, 'code')).textContent())!.trim();
    await expect(page.locator('#slip-code')).toHaveValue(code);
    const link = await page.getByRole('link', { name: 'In the shop' }).getAttribute('href');
    const address = (fromNow: number) => {
      const url = new URL(link!);
      url.searchParams.set('sku', code);
      url.searchParams.set('at', String(Date.now() + fromNow * DAY_MS));
      return url.href;
    };
    const shopper = await page.context().newPage();
    await shopper.goto(address(11));
    await expect(shopper.getByText(/The shop as it will be on .* for Schools/)).toBeVisible();
    await expect(shopper.locator('.one s').first()).toBeVisible();
    await expect(shopper.getByText(/Lowest price of the 30 days before the reduction: £/)).toBeVisible();
    await shopper.goto(address(31));
    await expect(shopper.getByText(/The shop as it will be on/)).toBeVisible();
    await expect(shopper.locator('.one s')).toHaveCount(0);
    await shopper.getByRole('link', { name: 'The shop as it is now' }).click();
    await expect(shopper.getByText(/The shop as it will be on/)).toHaveCount(0);
    await shopper.close();
    await page.getByRole('button', { name: 'Back to now' }).click();
    await expect(page.getByText(/^As it will be on/)).toHaveCount(0);
    await page.getByRole('button', { name: 'Back to anybody' }).click();
  });

  await test.step('its last day is moved by key and by dragging, seen before it lands, and undone', async () => {
    await page.goto(`${shop.address}/calendar`);
    const bar = page.getByRole('button', { name: /^Pen weeks/ });
    await bar.focus();
    await page.keyboard.press('Shift+ArrowRight');
    await expect(workbench.proofBar()).toContainText('1 change');
    await expect(bar).toHaveClass(/changed/);
    await workbench.proofBar().getByRole('button', { name: 'Undo last' }).click();
    await expect(bar).not.toHaveClass(/changed/);
    const { x, y, width, height } = (await bar.boundingBox())!;
    await page.mouse.move(x + width - 1, y + height / 2);
    await page.mouse.down();
    await page.mouse.move(x + width + 60, y + height / 2, { steps: 6 });
    await page.mouse.up();
    await expect(bar).toHaveClass(/changed/);
    await land();
    await expect.poll(async () => (await bar.boundingBox())!.width).toBeGreaterThan(width + 30);
  });

  await test.step('a sale that ends before it begins is refused in words, and nothing of it lands', async () => {
    await page.goto(`${shop.address}/lists/sale`);
    await page.locator('.rgCell', { hasText: 'Pen weeks' }).first().click();
    await set('to', day(2));
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(page.getByText('a sale or formula would end before it begins')).toBeVisible();
    await expect(workbench.proofBar()).toContainText('1 change');
    expect(Workbench.number(await workbench.proofBar().textContent(), /change/)).toBe(1);
  });
});
