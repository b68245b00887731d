import { type Page } from '@playwright/test';
import { Workbench, expect, test } from './shop.ts';

/** Puts text where Ctrl+V takes it from. */
const copy = (page: Page, text: string) => page.evaluate((text) => navigator.clipboard.writeText(text), text);

const choose = async (page: Page, label: string, option: string) => {
  const select = page.locator(`nz-select[aria-label="${label}"]`);
  await select.click();
  // Only the options in sight are in the page: typing finds the one that is meant.
  const search = select.locator('input:not([readonly])');
  if ((await search.count()) > 0) await search.fill(option);
  await page.locator(`nz-option-item[title="${option}"]`).click();
  await page.keyboard.press('Escape');
};

test('an attribute of the shop: made, needed, filled by paste, asked, found in history, taken back', async ({
  workbench,
  page,
}) => {
  test.slow();
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await expect(workbench.counts()).toContainText('1,200 SKUs');

  await test.step('it is made on the page of lists, and given to a category', async () => {
    await page.keyboard.press('l');
    await page.getByRole('link', { name: /^attributes/i }).click();
    await expect(page.getByRole('heading', { name: 'attributes', level: 1 })).toBeVisible();
    await page.getByLabel('New attribute').fill('nib width');
    await choose(page, 'What its values are', 'number');
    await page.getByLabel('unit').first().fill('mm');
    await page.getByRole('button', { name: 'Make it' }).click();
    const row = page.locator('.rgCell', { hasText: 'nib width' }).first();
    await row.click();
    await expect(page.getByText('Proposed, and made when the proof lands.')).toBeVisible();
    await choose(page, 'used in', 'Pens');
    await choose(page, 'needed in', 'Pens');
    await expect(workbench.proofBar()).toContainText('6 changes');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('what lacks it is counted, and opens', async () => {
    await workbench.desk('Range');
    const gap = page.getByRole('button', { name: /^no nib width/ });
    await expect(gap).toBeVisible();
    const lacking =
      Workbench.number(await gap.textContent(), /$/) || Number(/\d+$/.exec((await gap.textContent())!.trim())![0]);
    await gap.click();
    await expect.poll(() => workbench.skus()).toBe(lacking);
  });

  await test.step('a block from a spreadsheet fills it', async () => {
    await page.getByRole('button', { name: 'Columns' }).click();
    await page.getByRole('textbox', { name: 'Columns of this desk' }).fill('nib width');
    await page.locator('nz-option-item[title="nib width"]').click();
    await page.keyboard.press('Escape');
    // The column stands last: it is moved to the front by keeping few others.
    await page.evaluate(() => {
      const key = 'ivory.layout.range';
      const { keys } = JSON.parse(localStorage.getItem(key)!) as { keys: string[] };
      const own = keys.at(-1)!;
      localStorage.setItem(key, JSON.stringify({ keys: ['name', 'code', own], widths: {} }));
    });
    await page.reload();
    await (await workbench.cell(0, 'nib width')).click();
    await copy(page, Array.from({ length: 40 }, () => '0.4').join('\n'));
    await page.keyboard.press('Control+v');
    await expect(workbench.proofBar()).toContainText('changes');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('it is asked as any other field, with counts of what would be found', async () => {
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Take out gap is "no nib width"' }).click();
    await workbench.ask('nib width < 0.6');
    await expect(page.getByRole('button', { name: 'Open nib width < 0.6' })).toBeVisible();
    await expect.poll(() => workbench.skus()).toBeGreaterThan(3);
    await workbench.question().fill('tags is ');
    await expect(page.getByRole('option', { name: /Gift \d+/ })).toBeVisible();
    await workbench.question().fill('');
  });

  await test.step('its history stands in the slip, and it is taken back', async () => {
    await page.locator('.rgCell').first().click();
    await expect(page.locator('ivory-slip')).toContainText('nib width');
    await expect(page.locator('ivory-slip')).toContainText('cells pasted');
    await workbench.desk('Journal');
    await page
      .getByRole('row', { name: /cells pasted/ })
      .getByRole('button', { name: 'Take back' })
      .click();
    await page.getByRole('button', { name: /^Land / }).click();
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await workbench.desk('Range');
    await workbench.ask('nib width is filled');
    await expect(workbench.counts()).toContainText('0 SKUs');
  });
});

test('brands, tags and categories: renamed, merged, deleted, given to a whole set', async ({
  workbench,
  shop,
  page,
}) => {
  test.slow();
  await page.goto(`${shop.address}/lists/brand`);
  await page.locator('.rgCell', { hasText: 'Moss Lane' }).click();

  await test.step('a brand is renamed where it stands', async () => {
    await page.keyboard.press('F2');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('Fern Lane');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('1 change');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    // Once it has landed it stands elsewhere, by its new name.
    await expect(workbench.proofBar()).toBeHidden();
    const names = () => page.locator('.rgRow .rgCell:first-child').allTextContents();
    await expect.poll(async () => (await names()).findIndex((name) => name.includes('Fern Lane'))).toBe(2);
  });

  await test.step('and merged into another, which says what becomes of its goods', async () => {
    await page.locator('.rgCell', { hasText: 'Fern Lane' }).click();
    await page.getByRole('button', { name: 'Delete' }).click();
    await expect(page.getByRole('status').filter({ hasText: 'they will have no brand' })).toBeVisible();
    await page.getByRole('button', { name: 'Keep' }).click();
    await page.getByRole('button', { name: 'Merge into …' }).click();
    await choose(page, 'Into which', 'Quillmere');
    await page.getByRole('button', { name: 'Merge', exact: true }).click();
    await expect(workbench.proofBar()).toContainText('products');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(page.locator('.rgRow .rgCell:first-child', { hasText: 'Fern Lane' })).toBeHidden();
    // What was merged into it, and what that was called before, still finds it.
    await expect(page.locator('.rgRow', { hasText: 'Quillmere' })).toContainText('Fern Lane | Moss Lane');
  });

  await test.step('a name in use is refused, says so, and makes nothing', async () => {
    await page.getByLabel('New brand').fill('QUILLMERE');
    await page.getByRole('button', { name: 'Make it' }).click();
    await expect(page.getByText('The name “QUILLMERE” is in use.')).toBeVisible();
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('a number opens exactly its goods', async () => {
    const used = page.locator('.rgRow', { hasText: 'Quillmere' }).getByRole('button');
    const products = Number((await used.textContent())!.replaceAll(',', ''));
    await used.click();
    await expect(workbench.counts()).toContainText(`${products} products`);
  });

  await test.step('a tag is added to the whole set, counted before it is proposed', async () => {
    await page.getByRole('button', { name: 'Change all of these' }).click();
    await choose(page, 'Field, Change all of these', 'tags');
    await choose(page, 'values, Change all of these', 'Gift');
    const effect = page.locator('ivory-one-step [role=status]');
    await expect(effect).toContainText(/\d+ products change, \d+ are so already/);
    const changes = Number(/(\d+) products/.exec((await effect.textContent())!)![1]);
    await page.getByRole('button', { name: 'Propose' }).click();
    await expect(workbench.proofBar()).toContainText(`${changes} changes on ${changes} products`);
    await page.keyboard.press('Control+z');
    await expect(workbench.proofBar()).toBeHidden();
  });
});
