import { expect, test } from './shop.ts';

test('cells are found, replaced, done again and summed; columns are locked, kept and sorted by; rows are left out', async ({
  workbench,
  page,
}) => {
  const cellAt = (x: number, y: number) => page.locator(`.rgCell[data-rgcol="${x}"][data-rgrow="${y}"]`);
  const heading = (name: string) => page.locator('revogr-header .rgHeaderCell', { hasText: name }).first();
  await workbench.ask('in Ink name contains pigment');
  await expect(cellAt(0, 0)).toContainText('Pigment');

  await test.step('words are replaced in the chosen cells alone, undone, and done again', async () => {
    await cellAt(0, 0).click();
    await cellAt(0, 5).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+h');
    await page.getByLabel('Find', { exact: true }).fill('PIGMENT');
    await page.getByLabel('put in its place').fill('lasting');
    await expect(page.getByText('Found 6 times, in 6 of 6 cells.')).toBeVisible();
    await page.getByRole('button', { name: 'Replace' }).click();
    await expect(cellAt(0, 0)).toContainText('lasting');
    const proposed = await workbench.proofBar().textContent();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toBeHidden();
    await page.keyboard.press('Control+y');
    await expect(workbench.proofBar()).toBeVisible();
    expect(await workbench.proofBar().textContent()).toBe(proposed);
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('what the chosen numbers come to stands below', async () => {
    const prices = await Promise.all([0, 1, 2].map(async (y) => Number(await cellAt(4, y).textContent())));
    await cellAt(4, 0).click();
    await cellAt(4, 2).click({ modifiers: ['Shift'] });
    const sum = prices.reduce((all, one) => all + Math.round(one * 100), 0) / 100;
    await expect(page.locator('.totals')).toContainText(`sum £${sum.toFixed(2)}`);
  });

  await test.step('a text that is typed with Ctrl+Enter goes into every chosen cell, and codes count up', async () => {
    await page.keyboard.type('9.5');
    await page.keyboard.press('Control+Enter');
    await expect(workbench.proofBar()).toContainText('3 changes on 3 SKUs');
    await cellAt(1, 0).click();
    await page.keyboard.type('PIG-09');
    await page.keyboard.press('Enter');
    await cellAt(1, 0).click();
    await cellAt(1, 2).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+d');
    await expect(cellAt(1, 2)).toContainText('PIG-11');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toContainText('3 changes on 3 SKUs');
  });

  await test.step('a locked column takes nothing, typed or pasted, until it is unlocked', async () => {
    await heading('stock').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Lock it against edits' }).click();
    await cellAt(5, 1).click();
    await page.keyboard.type('77');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('3 changes on 3 SKUs');
    await heading('stock').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Unlock it' }).click();
  });

  await test.step('rows are sorted by several columns, also after a reload', async () => {
    await heading('size').click();
    await heading('price').click({ modifiers: ['Shift'] });
    await expect(heading('size')).toContainText('↑1');
    await expect(heading('price')).toContainText('↑2');
    await page.reload();
    await expect(heading('price')).toContainText('↑2');
    await heading('name').click();
  });

  await test.step('the first columns stay in sight, the keys go across, and a code that is dragged down counts up', async () => {
    await heading('code').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Keep the columns up to here' }).click();
    const staying = (x: number, y: number) =>
      page.locator(`.colPinStart .rgCell[data-rgcol="${x}"][data-rgrow="${y}"]`);
    await staying(1, 0).click();
    await page.keyboard.press('End');
    await expect(heading('gap')).toBeInViewport();
    await expect(heading('name')).toBeInViewport();
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.type('ZZ-009');
    await page.keyboard.press('Tab');
    await expect(staying(1, 0)).toContainText('ZZ-009');
    await page.keyboard.press('ArrowLeft');
    const handle = page.locator('.colPinStart .autofill-handle');
    const { x, y } = (await handle.boundingBox())!;
    await page.mouse.move(x + 8, y + 8);
    await page.mouse.down();
    await page.mouse.move(x + 8, y + 40, { steps: 5 });
    await page.mouse.move(x + 8, y + 70, { steps: 5 });
    await page.mouse.up();
    await expect(staying(1, 1)).toContainText('ZZ-010');
    await expect(staying(1, 2)).toContainText('ZZ-011');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toContainText('3 changes on 3 SKUs');
    await heading('name').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Let all columns scroll' }).click();
    await expect(page.locator('.colPinStart')).toHaveCount(0);
  });

  await test.step('a choice of columns is kept under a name, and taken again', async () => {
    await page.getByRole('button', { name: 'Columns', exact: true }).click();
    await page.keyboard.press('Escape');
    await page.getByLabel('Keep these as').fill('As it was');
    await page.getByLabel('Keep these as').press('Enter');
    await heading('brand').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Take the column out' }).click();
    await expect(heading('brand')).toHaveCount(0);
    await page.getByRole('button', { name: 'As it was', exact: true }).click();
    await expect(heading('brand')).toBeVisible();
    await page.getByRole('button', { name: 'Close' }).click();
  });

  await test.step('rows are left out by key, put in by their code, and undone one by one', async () => {
    const all = await workbench.skus();
    await cellAt(1, 0).click();
    const code = (await cellAt(1, 0).textContent())!.trim();
    await page.keyboard.press('Control+Delete');
    await expect.poll(() => workbench.skus()).toBe(all - 1);
    await expect(page.getByText('left out')).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('/');
    await page.keyboard.type(`+ ${code}`);
    await page.keyboard.press('Enter');
    await expect.poll(() => workbench.skus()).toBe(all);
    await expect(page.getByText('and by hand')).toBeVisible();
    await page.getByRole('button', { name: `${code} is not put in by hand any more` }).click();
    await expect(page.getByText('and by hand')).toHaveCount(0);
    await expect.poll(() => workbench.skus()).toBe(all);
    await expect(page).not.toHaveURL(new RegExp(code));
  });

  await test.step('a name is completed while it is typed, and a text of several lines opens over its cell', async () => {
    await page.evaluate(() =>
      localStorage.setItem(
        'ivory.layout.range',
        JSON.stringify({ keys: ['name', 'code', 'colour', 'brand', 'summary'] }),
      ),
    );
    await page.reload();
    await expect(heading('short description')).toBeVisible();
    await expect(cellAt(0, 0)).toContainText('Pigment');
    await cellAt(2, 0).click();
    await page.keyboard.type('Moss l');
    await expect(page.locator('revogr-edit input')).toHaveValue('Moss lane');
    await page.keyboard.press('Enter');
    await expect(cellAt(2, 0)).toContainText('Moss Lane');
    await cellAt(3, 0).click();
    await page.keyboard.type('D');
    const text = page.getByRole('textbox', { name: 'short description' });
    await expect(text).toHaveValue('D');
    await page.keyboard.type('ries in a minute.');
    await page.keyboard.press('Alt+Enter');
    await page.keyboard.type('Stays for a century.');
    await page.keyboard.press('Enter');
    await expect(text).toHaveCount(0);
    await expect(cellAt(3, 0)).toContainText('Dries in a minute. Stays for a century.');
    await cellAt(3, 0).click();
    await page.keyboard.press('F2');
    await expect(text).toHaveValue('Dries in a minute.\nStays for a century.');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toContainText('3 changes on 3 SKUs');
  });

  await test.step('the menu is opened by key, and asks for what a row has', async () => {
    await page.keyboard.press('Escape');
    await page.evaluate(() => localStorage.removeItem('ivory.layout.range'));
    await page.reload();
    await expect(heading('colour')).toBeVisible();
    await expect(cellAt(0, 0)).toContainText('Pigment');
    await cellAt(2, 0).click();
    const colour = (await cellAt(2, 0).textContent())!.trim();
    await page.keyboard.press('Shift+F10');
    await expect(page.getByRole('menu')).toBeVisible();
    await page.getByRole('menuitem', { name: `Only: colour is "${colour}"` }).press('Enter');
    await expect(page.getByRole('button', { name: `Open colour is ${colour}` })).toBeVisible();
  });
});
