import { nothingCut } from './nothingCut.ts';
import { expect, test } from './shop.ts';

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
];
/** Each page, and what is on it once it has read what it shows. */
const PAGES: readonly (readonly [path: string, there: string])[] = [
  ['range', '.rgRow .rgCell'],
  ['prices', '.rgRow .rgCell'],
  ['stock', '.rgRow .rgCell'],
  ['findability', 'main h1'],
  ['outlets', 'main table'],
  ['calendar', '.bar'],
  ['journal', 'main h1'],
  ['rule', 'h1'],
  ['lists/brand', '.rgRow .rgCell'],
  ['lists/attribute', '.rgRow .rgCell'],
  ['lists/sale', '.rgRow .rgCell'],
  ['archive', 'main h1'],
  ['new', 'form, input'],
  ['folio/category/1', 'section'],
  ['folio/assortment/1', 'section'],
  ['folio/shop/1', 'section'],
  ['folio/product/1', 'section'],
];

test('on no page a number, a code or a button is cut off or lies under another', async ({ workbench, shop, page }) => {
  await expect(workbench.rows().first()).toBeVisible();
  for (const size of SIZES) {
    await page.setViewportSize(size);
    for (const [path, there] of PAGES) {
      await page.goto(`${shop.address}/${path}`);
      await expect(page.locator(there).first()).toBeVisible();
      // What is still being drawn may lie over its neighbour for a moment.
      await expect(async () => expect(await nothingCut(page), `${path} at ${size.width} px`).toEqual([])).toPass({
        timeout: 10_000,
      });
    }
  }
  // What is cut is found.
  await page.addStyleTag({ content: 'h1 { width: 30px; overflow: hidden; white-space: nowrap }' });
  expect((await nothingCut(page)).join()).toContain('cut at the side');
});
