import { type Page } from '@playwright/test';
import sharp from 'sharp';
import { type Workbench, expect, test } from './shop.ts';

/** A small picture of one colour, as a shopkeeper drops it. */
const picture = async (name: string, colour: string) => ({
  name,
  mimeType: 'image/png',
  buffer: await sharp({ create: { width: 90, height: 60, channels: 3, background: colour } })
    .png()
    .toBuffer(),
});

async function landHand(workbench: Workbench): Promise<void> {
  await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
  await expect(workbench.proofBar()).toBeHidden();
}

/** Chooses an option of a select in the folio. */
async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).last().locator('xpath=ancestor-or-self::nz-select[1]').click();
  await page.locator(`nz-option-item[title="${option}"]`).click();
}

test('a pen with nibs and colours is made, shown in the shop until it is sold, and taken back in one step', async ({
  workbench,
  shop,
  page,
}) => {
  test.slow();
  await expect(workbench.counts()).toContainText('1,200 SKUs');

  await test.step('by its name first, from any screen', async () => {
    await page.keyboard.press('n');
    await expect(page.getByRole('heading', { name: 'New product' })).toBeVisible();
    await page.keyboard.type('Larkspur Travel Pen');
    await expect(page.getByText('larkspur-travel-pen')).toBeVisible();
    await page.getByLabel('regular price').fill('45');
    await page.getByLabel('cost').fill('18.00');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Larkspur Travel Pen' }).first()).toBeVisible();
    await expect(page.getByText('Proposed, and made when the proof lands.')).toBeVisible();
  });

  await test.step('with two options, and only the combinations that are new', async () => {
    for (const [option, values] of [
      ['size', 'Fine, Medium, Broad, Stub'],
      ['colour', 'Blue, Black, Oxblood, Moss, Slate, Plum'],
    ] as const) {
      await choose(page, 'Add an option', option);
      await page.getByLabel(`more ${option}`).fill(values);
    }
    await expect(page.getByText('Makes 23 new variants.')).toBeVisible();
    const combinations = page.getByRole('table', { name: 'Combinations to be made' });
    await combinations.getByRole('button', { name: 'Plum' }).click();
    await combinations.getByRole('checkbox', { name: 'Make Plum, Broad' }).check();
    await expect(
      page.getByText('Makes 20 new variants. Those that are there get Blue, Fine. 3 are left out.'),
    ).toBeVisible();
    await combinations.getByRole('button', { name: 'Plum' }).click();
    await combinations.getByRole('button', { name: 'Plum' }).click();
    await expect(page.getByText('Makes 23 new variants.')).toBeVisible();
    await page.locator('ivory-variants').getByRole('button', { name: 'Propose' }).click();
    await expect(workbench.proofBar()).toContainText('24 new SKUs');
    await page.getByLabel('more size').fill('Italic');
    await expect(page.getByText('Makes 6 new variants.')).toBeVisible();
    await page.getByLabel('more size').fill('');
  });

  await test.step('with words, pictures, and a day from which it is bought', async () => {
    await page.getByLabel('short description').fill('A pen for the road.');
    await page.keyboard.press('Tab');
    const points = page.getByRole('table', { name: 'selling points' }).getByRole('textbox');
    await points.last().fill('Fits in a shirt pocket');
    await page.keyboard.press('Enter');
    await expect(points).toHaveCount(2);
    await page.keyboard.type('Takes short cartridges');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('complementary').getByRole('listitem')).toHaveText([
      'Fits in a shirt pocket',
      'Takes short cartridges',
    ]);
    const files = page.locator('ivory-picture-order input[type=file]');
    await files.setInputFiles([await picture('closed.png', '#335577'), await picture('open.png', '#775533')]);
    await expect(page.locator('ivory-picture-order li')).toHaveCount(2);
    await page.getByLabel('Alternative text of picture 1').fill('The pen, closed');
    await files.setInputFiles({ name: 'plan.png', mimeType: 'image/png', buffer: Buffer.from('<svg/>') });
    await expect(page.getByText('“plan.png” was not taken')).toBeVisible();
    await choose(page, 'stage', 'On sale');
    await choose(page, 'can be bought', 'from a date');
    await page.getByLabel('bought from').fill('30 Nov 2099');
    await page.getByLabel('note until it is bought').fill('The first come on Monday.');
    await page.keyboard.press('Tab');
    await expect(page.getByLabel('bought from')).toHaveValue('2099-11-30');
    await landHand(workbench);
    await expect(page.getByText('Shoppers see it, and can buy it from 2099-11-30.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'no GTIN' })).toBeVisible();
  });

  await test.step('and stands in the shop as it says', async () => {
    await page.goto(`${shop.storefront}/search?q=larkspur+travel`);
    await page.getByRole('link', { name: 'Larkspur Travel Pen' }).click();
    await expect(page.getByText('Can be bought from 2099-11-30. The first come on Monday.')).toBeVisible();
    await expect(page.getByRole('img', { name: 'The pen, closed' })).toBeVisible();
    await expect(page.getByText('Fits in a shirt pocket')).toBeVisible();
    const data = JSON.parse((await page.locator('script[type="application/ld+json"]').textContent())!) as {
      '@graph': { '@type': string; offers?: unknown[] }[];
    };
    expect(data['@graph'].map((one) => one['@type'])).toEqual(['Product', 'BreadcrumbList']);
    expect(data['@graph'][0]!.offers).toHaveLength(24);
  });

  await test.step('is changed on its page, and its old address leads on', async () => {
    await page.goto(`${shop.address}/range?q=code+starts+with+LTP`);
    await expect(workbench.counts()).toContainText('24 SKUs');
    await (await workbench.cell(0, 'code')).click();
    await expect(page.locator('ivory-slip')).toContainText('The shopper pays');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Shift+E');
    await page.getByLabel('address', { exact: true }).fill('travel-pen');
    await page.keyboard.press('Tab');
    await expect(workbench.proofBar()).toContainText('1 change');
    await landHand(workbench);
    await page.goto(`${shop.storefront}/products/larkspur-travel-pen`);
    await expect(page).toHaveURL(`${shop.storefront}/products/travel-pen`);
  });

  await test.step('all of it is taken back', async () => {
    const takeBack = async (title: RegExp) => {
      await page.goto(`${shop.address}/journal`);
      await page.getByRole('row', { name: title }).getByRole('button', { name: 'Take back' }).first().click();
      await page.getByRole('button', { name: /^Land / }).click();
      await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    };
    await takeBack(/Cell edited/);
    await takeBack(/New product: Larkspur Travel Pen/);
    await page.goto(`${shop.address}/range?q=code+starts+with+LTP`);
    await expect(workbench.counts()).toContainText('0 SKUs');
  });
});
