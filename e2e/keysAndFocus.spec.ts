import { expect, test } from './shop.ts';

test('keys go where they are seen to go, and the focus comes back to where it was', async ({ workbench, page }) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  const hint = page.getByText('What you type goes into the cell.');
  const sheet = page.getByRole('group', { name: /Enter leads into its cells/ });

  await test.step('a cell with the keys is said; Enter with another key is no edit', async () => {
    const cell = await workbench.cell(2, 'size');
    const before = await cell.textContent();
    await cell.click();
    await expect(hint).toBeVisible();
    for (const key of ['Control+Enter', 'Shift+Enter', 'Alt+Enter']) await page.keyboard.press(key);
    await expect(cell).toHaveText(before!);
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('Escape leaves the cells, seen; then single keys work, Tab leads on, and Enter leads back', async () => {
    await page.keyboard.press('Escape');
    await expect(hint).toBeHidden();
    await expect(sheet).toBeFocused();
    await page.keyboard.press('Tab');
    await expect(sheet).not.toBeFocused();
    await page.keyboard.press('Shift+Tab');
    await sheet.focus();
    await page.keyboard.press('Enter');
    await expect(hint).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('closing the keys gives the focus back; so does coming back from the proof', async () => {
    await sheet.focus();
    await page.keyboard.press('?');
    await expect(page.getByText('question line, from everywhere')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(sheet).toBeFocused();
    await page.keyboard.press('p');
    await expect(page.getByText('Nothing is proposed')).toBeVisible();
    expect(await page.evaluate(() => document.activeElement?.tagName)).toBe('MAIN');
    await page.keyboard.press('1');
    await expect(sheet).toBeFocused();
  });

  await test.step('landing gives the keys back to the cell', async () => {
    await (await workbench.cell(0, 'price')).click();
    await page.keyboard.type('+10%');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('1 change');
    await page.getByRole('button', { name: 'Land', exact: true }).dblclick();
    await expect(workbench.proofBar()).toBeHidden();
    await expect(hint).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('one press lands once, and "Take back" pressed twice is one proof', async () => {
    await page.keyboard.press('j');
    await expect(page.getByRole('button', { name: 'Take back' })).toHaveCount(1);
    await page.getByRole('button', { name: 'Take back' }).dblclick();
    await expect(page.getByRole('heading', { name: /^Take back: / })).toBeVisible();
    await page.keyboard.press('j');
    await expect(page.getByRole('link', { name: /^Take back: / })).toHaveCount(1);
    await page.getByRole('button', { name: 'Discard it' }).click();
    await page.getByRole('button', { name: 'Discard it' }).click();
    await expect(page.getByRole('link', { name: /^Take back: / })).toHaveCount(0);
  });

  await test.step('/ asks from everywhere, and what is typed then presses nothing', async () => {
    await workbench.desk('Outlets');
    await page.getByRole('button', { name: 'Write the file' }).click();
    const deliveries = page.locator('tbody').getByRole('link', { name: 'Save' });
    await expect(deliveries).toHaveCount(1);
    await page.keyboard.press('/');
    await expect(workbench.question()).toBeFocused();
    await page.keyboard.type('iron gall ');
    await expect(workbench.question()).toHaveValue('iron gall ');
    await workbench.desk('Outlets');
    await expect(deliveries).toHaveCount(1);
  });

  await test.step('a bar pressed on a desk opens its rows on that desk', async () => {
    await page.keyboard.press('1');
    const bar = page.getByRole('button', { name: /^10 to 20: / }).first();
    await bar.click();
    await expect(page).toHaveURL(/\/range\?q=/);
  });

  await test.step('a range that was written backwards is said', async () => {
    await page.getByRole('button', { name: 'Ask for everything' }).click();
    await workbench.ask('price between 10 and 5');
    await expect(page.getByText('It was read as: regular price between 5.00 and 10.00.')).toBeVisible();
  });
});
