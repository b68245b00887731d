import { expect, test } from './shop.ts';

test('what cannot be is refused in words that help, and nothing is lost', async ({
  workbench,
  page,
  context,
  shop,
}) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');

  await test.step('a question that does not parse says where and what would; what was typed stays', async () => {
    await workbench.question().fill('in Ink magin < 45');
    await workbench.question().press('Escape');
    await workbench.question().press('Enter');
    await expect(page.getByRole('alert')).toContainText('There is no field “magin”. Did you mean “margin”?');
    await expect(workbench.question()).toHaveValue('in Ink magin < 45');
    await workbench.ask('in Ink margin > 99');
    await expect(page.getByText('Nothing answers all of this.')).toBeVisible();
    await page.getByRole('button', { name: /without margin > 99/ }).click();
    await expect(workbench.rows().first()).toBeVisible();
    await workbench.ask('stock 0');
    await page.getByRole('button', { name: /^[1-9]\d* with stock is 0$/ }).click();
    await expect(page.getByRole('button', { name: 'Take out stock is 0' })).toBeVisible();
    await expect(workbench.rows().first()).toBeVisible();
  });

  await test.step('a price that is none names the row, the value and what would be right', async () => {
    const price = await workbench.cell(0, 'price');
    const before = (await price.textContent())!.trim();
    await price.click();
    await page.keyboard.type('1O.50');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('“1O.50” has a letter where a digit belongs. Is 10.50 right?');
    await expect(price).toHaveText(`${before}1O.50`);
    await expect(price).toHaveClass(/cell-refused/);
    await page.keyboard.press('ArrowUp');
    await expect(page.getByRole('status').filter({ hasText: 'Is 10.50 right?' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(price).toHaveText(before);
    await page.getByRole('button', { name: 'Put away' }).click();
    await expect(page.getByRole('alert')).toBeHidden();
  });

  await test.step('a file that is no CSV is refused by name', async () => {
    await page.locator('input[type=file]').setInputFiles({
      name: 'prices.xlsx',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from('504b030414000000080000000000', 'hex'),
    });
    await expect(page.getByRole('alert')).toContainText('prices.xlsx: This is a ZIP or XLSX file, not a CSV.');
  });

  await test.step('a rule that would go below nothing says how many it stops, and the guards say which', async () => {
    await page.getByRole('button', { name: 'Rule on this set' }).click();
    await workbench.choose('What step 1 does', 'lower');
    await page.getByLabel('by, Step 1').fill('500');
    await expect(page.getByText(/would fall below nothing/).first()).toBeVisible();
    await expect(page.getByRole('button', { name: 'Put into the proof' })).toBeDisabled();
    await page.getByLabel('by, Step 1').fill('5 pounds');
    await expect(page.getByText('“5 pounds” is not an amount. Write it like 12.50.')).toBeVisible();
  });

  await test.step('a proof whose rows changed since lands nothing, shows them and leaves them to choose', async () => {
    await workbench.desk('Prices');
    await (await workbench.cell(0, 'price')).click();
    await page.keyboard.type('41.00');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('1 change');
    // Somebody else's import of the same SKU lands first.
    const code = (await (await workbench.cell(0, 'code')).textContent())!.trim();
    const api = (path: string, data: unknown, headers: Record<string, string> = {}) =>
      context.request.post(shop.address + path, { data, headers });
    const upload = await api('/api/imports', Buffer.from(`code,price\n${code},42.00\n`), {
      'x-file-name': 'other.csv',
      'content-type': 'application/octet-stream',
    });
    const { id } = (await upload.json()) as { id: string };
    const settings = { columns: ['code', 'price'], decimalSign: '.', makeProducts: false, makeNames: false };
    const { work } = (await (await api(`/api/imports/${id}/read`, settings)).json()) as { work: { id: string } };
    let proof: string | null = null;
    await expect
      .poll(async () => {
        const read = (await (await context.request.get(`${shop.address}/api/works/${work.id}`)).json()) as {
          result: string | null;
        };
        return (proof = read.result);
      })
      .not.toBeNull();
    await api(`/api/proofs/${proof}/land`, {});

    await page.getByRole('link', { name: 'Look through' }).click();
    await page.getByRole('button', { name: /^Land / }).click();
    await expect(page.getByRole('alert')).toContainText('Nothing landed: 1 value has changed since');
    const row = page.getByRole('table', { name: 'Proof' }).getByRole('row').nth(1);
    await expect(row).toContainText('changed since');
    await expect(row).toContainText('£42.00');
    await page.getByRole('button', { name: 'Take these in' }).click();
    await page.getByRole('button', { name: /^Land 1 change/ }).click();
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await workbench.desk('Prices');
    await workbench.ask(`code is ${code}`);
    await expect(await workbench.cell(0, 'price')).toContainText('41.00');
  });

  await test.step('a server that is away is said, and what was typed is still there', async () => {
    await context.setOffline(true);
    // It is so for the page a moment later.
    await expect.poll(() => page.evaluate(() => fetch('/api/shop').then(Boolean, () => false))).toBe(false);
    await workbench.question().fill('stock is 0');
    await workbench.question().press('Escape');
    await workbench.question().press('Enter');
    await expect(page.getByRole('alert').first()).toContainText('The server does not answer');
    await expect(workbench.question()).toHaveValue('stock is 0');
    await context.setOffline(false);
  });
});
