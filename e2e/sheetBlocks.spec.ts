import { type Page } from '@playwright/test';
import { expect, test } from './shop.ts';

const headings = (page: Page) =>
  page.locator('revogr-header .rgHeaderCell').evaluateAll((cells) =>
    cells
      .map((cell) => ({ text: cell.textContent.trim().split(/[ ,]/)[0]!, left: cell.getBoundingClientRect().left }))
      .sort((a, b) => a.left - b.left)
      .map(({ text }) => text),
  );

/** Drags as a hand does, by small steps. */
async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 12 });
  await page.mouse.up();
}

test('blocks are chosen, copied and filled; columns are moved and widened, and stay so', async ({
  workbench,
  page,
}) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  const heading = async (name: string) =>
    (await page.locator('revogr-header .rgHeaderCell', { hasText: name }).first().boundingBox())!;

  await test.step('a block that reaches beyond the loaded rows is in hand, and copied whole', async () => {
    await workbench.rowAt(2).locator('.rgCell').nth(1).click();
    for (let pages = 0; pages < 20; pages++) await page.keyboard.press('Shift+PageDown');
    await page.keyboard.press('Control+c');
    const inHand = async () => Number(/(\d+) rows/.exec((await page.locator('ivory-slip h2').textContent())!)?.[1]);
    const copied = async () =>
      (await page.evaluate(() => navigator.clipboard.readText())).split('\n').filter((line) => line !== '').length;
    await expect.poll(inHand).toBeGreaterThan(250);
    await expect.poll(async () => (await copied()) - (await inHand())).toBe(0);
  });

  await test.step('Home, End and Ctrl with them lead to the ends', async () => {
    await page.keyboard.press('Control+End');
    await expect(workbench.rowAt(1_199)).toBeInViewport();
    await page.keyboard.press('Control+Home');
    await expect(workbench.rowAt(0)).toBeInViewport();
    // The cell there has the focus when the slip shows its row.
    const name = await (await workbench.cell(0, 'name')).textContent();
    await expect(page.locator('ivory-slip h2')).toHaveText(name!.trim());
  });

  await test.step('Enter opens a cell with what stands in it, and once more leaves it as it is', async () => {
    const price = workbench.rowAt(6).locator('.rgCell').nth(4);
    const before = (await price.textContent())!.trim();
    await price.click();
    await page.keyboard.press('Enter');
    await expect(page.locator('revogr-edit input')).toHaveValue(before);
    await page.keyboard.press('Enter');
    await expect(page.locator('revogr-edit')).toHaveCount(0);
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('what is typed right after a cell is pressed goes into it, and not where one typed before', async () => {
    const stock = workbench.rowAt(7).locator('.rgCell').nth(5);
    for (let tries = 0; tries < 5; tries++) {
      await workbench.question().focus();
      await stock.click();
      await page.keyboard.type(String(tries + 1));
      await page.keyboard.press('Enter');
      await expect(stock).toContainText(String(tries + 1));
      await expect(workbench.question()).toHaveValue('');
    }
    await page.getByRole('button', { name: 'Undo last' }).click();
    for (let left = 4; left > 0; left--) await page.getByRole('button', { name: 'Undo last' }).click();
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('F2 edits what stands in the cell', async () => {
    const code = workbench.rowAt(4).locator('.rgCell').nth(1);
    const before = await code.textContent();
    // All within one task: the grid has not told of its focus before the key.
    await code.evaluate((cell) => {
      const { x, y } = cell.getBoundingClientRect();
      const at = { bubbles: true, cancelable: true, clientX: x + 5, clientY: y + 5 };
      for (const press of ['mousedown', 'mouseup', 'click']) cell.dispatchEvent(new MouseEvent(press, at));
      const key = { key: 'F2', code: 'F2', bubbles: true, cancelable: true };
      document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', key));
    });
    await expect(page.locator('revogr-edit input')).toBeFocused();
    await page.keyboard.press('End');
    await page.keyboard.type('-B');
    await page.keyboard.press('Enter');
    await expect(code).toContainText(`${before}-B`);
    await expect(workbench.proofBar()).toContainText('1 change');
  });

  await test.step('a column that is moved is filled where it is, and it and its width are there again', async () => {
    const [brand, colour] = [await heading('brand'), await heading('colour')];
    await drag(page, { x: brand.x + 30, y: brand.y + 15 }, { x: colour.x + 10, y: colour.y + 15 });
    await expect.poll(async () => (await headings(page)).slice(0, 4)).toEqual(['name', 'code', 'brand', 'colour']);
    const above = await (await workbench.cell(6, 'brand')).textContent();
    await (await workbench.cell(6, 'brand')).click();
    for (let rows = 0; rows < 6; rows++) await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Control+d');
    for (const row of [9, 12]) await expect(await workbench.cell(row, 'brand')).toContainText(above!);
    const code = await heading('code');
    await drag(page, { x: code.x + code.width - 2, y: code.y + 10 }, { x: code.x + code.width + 58, y: code.y + 10 });
    const wider = async () => Math.round((await heading('code')).width);
    await expect.poll(wider).toBeGreaterThan(code.width + 50);
    const width = await wider();
    await page.reload();
    await expect(workbench.counts()).toContainText('1,200 SKUs');
    await expect.poll(async () => (await headings(page)).slice(0, 4)).toEqual(['name', 'code', 'brand', 'colour']);
    expect(await wider()).toBe(width);
  });
});
