import { type Locator, type Page } from '@playwright/test';
import { type Workbench, expect, test } from './shop.ts';

const branch = (page: Page, name: string) =>
  page.getByRole('treeitem').filter({ has: page.locator('.name', { hasText: new RegExp(`^\\s*${name}\\s*$`) }) });

/** A new category by keyboard, beside or in the one that has the focus. */
async function add(page: Page, at: string, key: '+' | '>', name: string): Promise<void> {
  await branch(page, at).focus();
  await page.keyboard.press(key);
  await page.getByLabel('Name of the new category').fill(name);
  await page.keyboard.press('Enter');
  await expect(branch(page, name)).toBeVisible();
}

async function landed(workbench: Workbench): Promise<void> {
  await workbench.proofBar().getByText('Look through').click();
  await workbench.page.getByRole('button', { name: /^Land / }).waitFor();
  await workbench.page.keyboard.press('Control+Enter');
  await expect(workbench.page.getByRole('heading', { name: 'Journal' })).toBeVisible();
}

/** Drags something over something else, and does not let it go. */
async function dragOver(page: Page, what: Locator, over: Locator): Promise<void> {
  await what.hover();
  await page.mouse.down();
  const to = (await over.boundingBox())!;
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 });
  // A hand is never quite still: the browser tells of a drag when it moves.
  for (const off of [4, 2, 3]) await page.mouse.move(to.x + to.width / 2 + off, to.y + to.height / 2);
}

test('five categories, a brand, an option, an attribute and an assortment, laid out by keyboard and taken back', async ({
  workbench,
  shop,
  page,
}) => {
  test.slow();
  await expect(workbench.counts()).toContainText('1,200 SKUs');

  await test.step('categories are made, nested and ordered in the spine', async () => {
    await add(page, 'Desk', '+', 'Workshop');
    await add(page, 'Workshop', '>', 'Tools');
    await add(page, 'Tools', '>', 'Bone folders');
    await add(page, 'Tools', '+', 'Wax');
    await add(page, 'Wax', '+', 'Seals');
    await branch(page, 'Seals').focus();
    await page.keyboard.press('Alt+ArrowRight');
    await expect(branch(page, 'Seals')).toHaveAttribute('aria-level', '3');
    await branch(page, 'Workshop').focus();
    await page.keyboard.press('Alt+ArrowUp');
    await expect(workbench.proofBar()).toContainText('changes');
    await landed(workbench);
    await workbench.desk('Range');
    const roots = page.locator('cdk-tree-node[aria-level="1"] .name');
    await expect(roots).toHaveText(['Ink', 'Paper', 'Pens', 'Workshop', 'Desk']);
  });

  await test.step('a brand, an option, an attribute and an assortment are made on their lists', async () => {
    for (const [kind, name] of [
      ['brand', 'Varnholt'],
      ['option', 'grade'],
      ['attribute', 'nib width'],
      ['assortment', 'Autumn'],
    ] as const) {
      await page.goto(`${shop.address}/lists/${kind}`);
      const field = page.getByLabel(`New ${kind}`);
      await field.fill(name);
      await field.press('Enter');
      await expect(page.locator('.rgCell', { hasText: name }).first()).toBeVisible();
    }
    await landed(workbench);
  });

  await test.step('the assortment gathers by a rule, is placed, and shoppers meet it', async () => {
    await page.goto(`${shop.address}/lists/assortment`);
    await page.locator('.rgCell', { hasText: 'Autumn' }).first().click();
    await page.getByRole('link', { name: 'Open its page' }).click();
    await expect(page.getByRole('heading', { name: 'Autumn', level: 1 })).toBeVisible();
    const rule = page.getByLabel('by rule');
    await rule.fill('in Ink stage is nowhere');
    await rule.press('Enter');
    await expect(page.getByRole('alert').filter({ hasText: '“nowhere” is no stage' }).first()).toBeVisible();
    await rule.fill('in Ink stage is "On sale"');
    await rule.press('Enter');
    await expect(page.getByText('was empty').first()).toBeVisible();
    await page.locator('nz-select[aria-label="row of the front page"]').click();
    await page.locator('nz-option-item[title="yes"]').click();
    await expect(workbench.proofBar()).toContainText('2 changes');
    await landed(workbench);
    await page.goto(shop.storefront);
    await expect(page.getByRole('link', { name: 'Autumn' })).toBeVisible();
    await page.goto(shop.address);
    const line = page.locator('ivory-assortment-lines .line', { hasText: 'Autumn' });
    await expect(line.locator('.count')).not.toHaveText('');
    const products = Number((await line.locator('.count').textContent())!);
    await line.click();
    await expect(workbench.counts()).toContainText(`${products} products`);
  });

  await test.step('one is kept out of it from the slip, which says why it was in', async () => {
    const before = await workbench.skus();
    await (await workbench.cell(0, 'code')).click();
    const slip = page.locator('ivory-slip');
    await expect(slip).toContainText('Autumn by rule');
    await slip.locator('p', { hasText: 'Autumn by rule' }).getByRole('button', { name: 'keep out' }).click();
    await expect(workbench.proofBar()).toContainText('1 change');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect.poll(() => workbench.skus()).toBeLessThan(before);
  });

  await test.step('all of it is taken back, the latest first', async () => {
    for (let landing = 0; landing < 4; landing++) {
      await page.goto(`${shop.address}/journal`);
      await page.getByRole('button', { name: 'Take back', exact: true }).nth(landing).click();
      await page.getByRole('button', { name: /^Land / }).click();
      await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    }
    await page.goto(shop.address);
    await expect(page.locator('cdk-tree-node[aria-level="1"] .name')).toHaveText(['Ink', 'Paper', 'Pens', 'Desk']);
    await expect(page.locator('ivory-assortment-lines .line', { hasText: 'Autumn' })).toBeHidden();
  });
});

test('a branch is dragged: what will happen is said before the drop, and rows are dropped on a category', async ({
  workbench,
  page,
}) => {
  test.slow();
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  await page.getByLabel('Find a category').fill('iron');
  await expect(branch(page, 'Iron gall')).toBeVisible();
  await expect(page.getByRole('treeitem')).toHaveCount(3);
  await page.getByLabel('Find a category').press('Escape');
  await expect(branch(page, 'Iron gall')).toBeHidden();

  await branch(page, 'Ink').locator('.fold').click();
  await dragOver(page, branch(page, 'Bottled'), branch(page, 'Paper'));
  const note = page.locator('.drop-note');
  await expect(note).toHaveText(/Bottled and the 3 below: into Paper\. \d+ products get another path\./);
  await page.mouse.up();
  await expect(workbench.proofBar()).toContainText('changes');
  await page.keyboard.press('Control+z');
  await expect(workbench.proofBar()).toBeHidden();

  await dragOver(page, page.locator('.cell-picture').first(), branch(page, 'Pens'));
  await expect(note).toContainText('Adds Pens to 1 product');
  await page.mouse.up();
  await expect(workbench.proofBar()).toContainText('1 change on 1 product');
});

test('300 paths pasted into the tree are one proof, and the branch that they made goes whole', async ({
  workbench,
  page,
}) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  const paste = (text: string) =>
    branch(page, 'Desk').evaluate((at, pasted) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', pasted);
      at.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    }, text);

  await test.step('a line that is no path is told by its number, and nothing is taken in', async () => {
    await paste('Wrapping\nWrapping > > Bows');
    await expect(page.getByRole('alert').filter({ hasText: '2: The path' })).toBeVisible();
    await expect(branch(page, 'Wrapping')).toBeHidden();
  });

  await test.step('all of them are undone and done again at once', async () => {
    await paste(Array.from({ length: 300 }, (_, i) => `Wrapping > Kind ${i % 20} > Sort ${i}`).join('\n'));
    await expect(branch(page, 'Wrapping')).toBeVisible();
    await expect(workbench.proofBar()).toContainText('963 changes');
    await page.keyboard.press('Control+z');
    await expect(branch(page, 'Wrapping')).toBeHidden();
    await page.keyboard.press('Control+y');
    await expect(branch(page, 'Wrapping')).toBeVisible();
    await landed(workbench);
  });

  await test.step('chosen with all below it, the branch goes', async () => {
    await page.keyboard.press('1');
    await branch(page, 'Wrapping').focus();
    await page.keyboard.press('Shift+ ');
    await page.keyboard.press('Delete');
    await expect(page.getByText('321 categories go. No product lies in them.')).toBeVisible();
    await page.getByRole('button', { name: 'Delete', exact: true }).click();
    await landed(workbench);
    await page.keyboard.press('1');
    await expect(branch(page, 'Desk')).toBeVisible();
    await expect(branch(page, 'Wrapping')).toBeHidden();
  });
});
