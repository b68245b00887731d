import { readFile } from 'node:fs/promises';
import { expect, test } from './shop.ts';

test('many goods are changed by a rule that is typed, it is kept and run again, and the set goes out as a file', async ({
  workbench,
  page,
}) => {
  const step = page.getByLabel('Add a step by typing it');
  const type = async (line: string) => {
    await step.fill(line);
    await step.press('Enter');
  };

  await test.step('a column of codes from a spreadsheet is a set, and it is said which are not found', async () => {
    await expect(workbench.rows().first()).toBeVisible();
    const codes = [];
    for (const row of [0, 1, 2]) codes.push(((await (await workbench.cell(row, 'code')).textContent()) ?? '').trim());
    await workbench.question().focus();
    await page.evaluate(
      (text) => {
        const clipboardData = new DataTransfer();
        clipboardData.setData('text/plain', text);
        document.activeElement!.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData, cancelable: true, bubbles: true }),
        );
      },
      ['SKU', ...codes, 'NO-SUCH-CODE'].join('\n'),
    );
    await expect(page.getByText('1 of 4 codes not found: NO-SUCH-CODE.')).toBeVisible();
    await expect.poll(() => workbench.skus()).toBe(3);
    await page.getByRole('button', { name: 'Ask for everything' }).click();
    await expect(page.getByText('1 of 4 codes not found')).toBeHidden();
  });

  await test.step('a set is kept under a name, and asked for by it', async () => {
    await workbench.ask('in Ink brand is filled');
    const keep = page.getByRole('button', { name: 'Keep this set' });
    await keep.click();
    await page.getByLabel('Name of the set').fill('Ink of brands');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: /^Ink of brands/ })).toBeVisible();
    await workbench.ask('in Paper');
    await page.getByRole('button', { name: /^Ink of brands/ }).click();
    await expect(workbench.counts()).not.toContainText('147 products');
    await workbench.question().blur();
  });

  await test.step('the rule names what it does to how many, word by word, while it is typed', async () => {
    await page.keyboard.press('r');
    await type('write name from "{name} by {brand}" where stage is "On sale"');
    await type('set stage to Resting where every SKU: stock is 0');
    await type('within name not used twice, only tell');
    const tally = page.locator('.tally').first();
    await expect(tally).toContainText('products change');
    const changing = async () => Number(/([\d,]+) products/.exec((await tally.textContent()) ?? '')?.[1] ?? 0);
    await expect.poll(changing).toBeGreaterThan(30);
    await expect(page.locator('.samples ins').first()).toContainText('by ');
  });

  await test.step('what cannot be read says so, and as text it is the same rule', async () => {
    await type('make it nicer');
    await expect(page.getByText(/“make it nicer” is nothing that a rule can do/)).toBeVisible();
    await page.getByRole('button', { name: 'As text' }).click();
    const text = page.getByLabel('The rule as text');
    await expect(text).toHaveValue(
      /^write name from "{name} by {brand}" where stage is "On sale"\nset stage to Resting/,
    );
    await page.getByRole('button', { name: 'As a form' }).click();
  });

  await test.step('kept, it is run, lands, and is taken up again', async () => {
    await page.getByRole('button', { name: 'Keep this rule' }).click();
    await page.getByLabel('Name of the rule').fill('Brands in names');
    await page.keyboard.press('Enter');
    await expect(page.getByText('It has not been run yet.')).toBeVisible();
    await page.getByRole('button', { name: 'Put into the proof' }).click();
    await expect(page.getByRole('heading', { name: 'Proof' })).toBeVisible();
    const lines = page.getByRole('table', { name: 'Proof' });
    const shown = async () => Number(await lines.getAttribute('aria-rowcount'));
    await expect.poll(shown).toBeGreaterThan(0);
    const all = await shown();
    await page.getByRole('searchbox', { name: 'Find lines' }).fill('price > 15');
    await page.keyboard.press('Enter');
    await expect.poll(shown).toBeLessThan(all);
    await page.getByRole('button', { name: 'Leave these out' }).click();
    await expect(page.getByRole('button', { name: /^left out/ })).toBeVisible();
    await page.getByRole('button', { name: 'Take these in' }).click();
    await expect(page.getByRole('button', { name: /^left out/ })).toBeHidden();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await page.keyboard.press('r');
    await page.getByLabel('Take up a kept rule').last().locator('xpath=ancestor-or-self::nz-select[1]').click();
    await page.locator('nz-option-item[title="Brands in names"]').click();
    await expect(page.getByText(/changes put into the proof/)).toBeVisible();
    await expect(page.getByLabel('The rule as text')).toBeHidden();
  });

  await test.step('the set goes out as a file, and brought back it changes nothing', async () => {
    await workbench.desk('Range');
    await page.getByRole('button', { name: 'Export', exact: true }).click();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Export', exact: true }).click(),
    ]);
    const text = await readFile(await file.path(), 'utf8');
    expect(text.split('\r\n')[0]).toContain('code,name');
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'back.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    await expect(page.getByRole('heading', { name: /back.csv/ })).toBeVisible();
  });
});
