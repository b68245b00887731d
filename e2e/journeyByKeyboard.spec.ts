import { expect, test } from './shop.ts';

test('finding, changing, proving, landing and taking back: by keyboard alone', async ({ workbench, page }) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');

  await test.step('/ goes to the question, which is answered with help from the arrows', async () => {
    await page.keyboard.press('/');
    await expect(workbench.question()).toBeFocused();
    await page.keyboard.type('brand is Mos');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await page.keyboard.type('margin < 60');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: /Open margin < 60/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /Open brand is "Moss Lane"/ })).toBeVisible();
    await page.keyboard.press('ArrowDown');
    await expect(workbench.question()).not.toBeFocused();
  });

  await test.step('cells are typed over, filled down and undone', async () => {
    await expect(page.getByText('The shopper pays')).toBeVisible();
    for (const heading of ['code', 'colour', 'size', 'price']) {
      await page.keyboard.press('ArrowRight');
      await expect(await workbench.cell(0, heading)).toBeFocused();
    }
    await page.keyboard.type('21.00');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('1 change');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Control+d');
    await expect(workbench.proofBar()).toContainText('3 changes');
    for (const row of [1, 2]) await expect(await workbench.cell(row, 'price')).toContainText('21.00');
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toContainText('1 change');
    await page.keyboard.press('Escape');
  });

  await test.step('what is typed faster than the sheet moves, as a scanner does, is not lost', async () => {
    await (await workbench.cell(3, 'code')).click();
    for (let row = 3; row < 13; row++) {
      await page.keyboard.type(`SCAN-${row}`);
      await page.keyboard.press(row % 2 === 0 ? 'ArrowDown' : 'Enter');
    }
    for (let row = 3; row < 13; row++) {
      const shown = (await workbench.cell(row, 'code')).locator('span').last();
      await expect(shown).toHaveText(`SCAN-${row}`);
    }
    await expect(workbench.proofBar()).toContainText('11 changes');
    for (let edit = 0; edit < 10; edit++) await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toContainText('1 change');
    // All within one task: no cell has its field before the next key.
    await (await workbench.cell(3, 'code')).click();
    await page.evaluate(() => {
      for (const key of ['A', '1', 'ArrowDown', 'A', '2', 'Enter', 'A', '3', 'Enter']) {
        const code = key.length > 1 ? key : `Key${key}`;
        document.activeElement!.dispatchEvent(
          new KeyboardEvent('keydown', { key, code, bubbles: true, cancelable: true }),
        );
      }
    });
    for (const [index, code] of ['A1', 'A2', 'A3'].entries()) {
      await expect((await workbench.cell(3 + index, 'code')).locator('span').last()).toHaveText(code);
    }
    await expect(workbench.proofBar()).toContainText('4 changes');
    for (const left of ['3 changes', '2 changes', '1 change']) {
      await page.keyboard.press('Control+z');
      await expect(workbench.proofBar()).toContainText(left);
    }
    await (await workbench.cell(3, 'code')).click();
    await page.keyboard.type('SIDE-1');
    await page.keyboard.press('Tab');
    await page.keyboard.type('Amber');
    await page.keyboard.press('Shift+Tab');
    await expect((await workbench.cell(3, 'code')).locator('span').last()).toHaveText('SIDE-1');
    await expect((await workbench.cell(3, 'colour')).locator('span').last()).toHaveText('Amber');
    for (const left of ['2 changes', '1 change']) {
      await page.keyboard.press('Control+z');
      await expect(workbench.proofBar()).toContainText(left);
    }
    await page.keyboard.press('Escape');
  });

  await test.step('R opens the rule, P the proof, Ctrl+Enter lands it', async () => {
    await page.keyboard.press('r');
    await expect(page.getByLabel('by, Step 1')).toBeFocused();
    await page.keyboard.type('1.00');
    await expect(page.getByText('£1.00 each')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Put into the proof' })).toBeEnabled();
    await page.getByRole('button', { name: 'Put into the proof' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Proof' })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Land / })).toBeEnabled();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Take back' })).toHaveCount(1);
  });

  await test.step('J, the numbers and ? go where they say', async () => {
    await page.keyboard.press('2');
    await expect(page.getByRole('link', { name: 'Prices', exact: true })).toHaveAttribute('aria-current', 'page');
    await expect(page.getByRole('button', { name: /Open margin < 60/ })).toBeVisible();
    await page.keyboard.press('j');
    await page.getByRole('button', { name: 'Take back' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: /Take back/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Land / })).toBeEnabled();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('taken back')).toBeVisible();
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('land what is looked through');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  });
});
