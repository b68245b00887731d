import { join } from 'node:path';
import { Workbench, expect, test } from './shop.ts';

const FILE = join(import.meta.dirname, '../demo/supplier-files/northgate-trade-autumn.csv');

test('a supplier’s file becomes goods, a rule changes prices, a feed goes out: by mouse', async ({
  workbench,
  shop,
  page,
}) => {
  await test.step('the shop is there, with its counts', async () => {
    await expect(workbench.counts()).toContainText('1,200 SKUs');
    await expect(page.getByText('Tarn & Teasel', { exact: true }).first()).toBeVisible();
  });

  await test.step('import: headings are matched, corrected and read into a proof', async () => {
    await page.locator('input[type=file]').setInputFiles(FILE);
    await expect(page.getByRole('heading', { name: /Import: northgate/ })).toBeVisible();
    await expect(page.getByRole('row', { name: /RRP inc VAT/ })).toContainText('regular price');
    await workbench.choose('Goes into: Colli', 'supplier');
    const colli = page.getByRole('row', { name: /Colli/ });
    await expect(colli).toContainText('supplier');
    await page.getByRole('button', { name: 'Read the file into a proof' }).click();
    await page.getByRole('link', { name: 'Choose the columns again' }).click();
    await expect(colli).toContainText('supplier');
    await colli.locator('nz-select').hover();
    await colli.locator('nz-select-clear').click();
    await expect(colli).toContainText('not taken');
    await page.getByRole('button', { name: 'Read the file into a proof' }).click();
    await expect(page.getByRole('heading', { name: /Import of northgate/ })).toBeVisible();
    const counts = await page.locator('ivory-import-outcome p').textContent();
    const [fresh, changed, same, refused] = ['new', 'changed', 'the same', 'refused'].map((word) =>
      Workbench.number(counts, new RegExp(word)),
    );
    expect(fresh! + changed! + same! + refused!).toBe(1500);
    await expect(page.getByText('“£1O.50” has a letter where a digit belongs. Is 10.50 right?')).toBeVisible();
    await expect(page.getByRole('link', { name: 'Results file' })).toBeVisible();
    await page.getByRole('button', { name: /^Land / }).click();
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Import of northgate-trade-autumn.csv', exact: true })).toBeVisible();
  });

  await test.step('every number opens: the SKUs of the landing are the working set', async () => {
    const number = page.getByRole('button', { name: /Open the SKUs of Import/ });
    const skus = Number((await number.textContent())!.trim().replace(',', ''));
    await number.click();
    await expect(workbench.counts()).toContainText(`${skus} SKUs`);
  });

  await test.step('find: the spine asks, and asks the same as typing', async () => {
    const listed = await workbench.skus();
    await page.getByRole('button', { name: 'The whole range' }).click();
    await expect.poll(() => workbench.skus()).toBeGreaterThan(listed);
    const all = await workbench.skus();
    await page.getByRole('treeitem', { name: /^Ink/ }).click();
    await expect(page.getByRole('button', { name: 'Open in Ink for changing' })).toBeVisible();
    const pressed = await workbench.skus();
    expect(pressed).toBeLessThan(all);
    await page.getByRole('button', { name: 'Ask for everything' }).click();
    await expect.poll(() => workbench.skus()).toBe(all);
    await workbench.ask('in Ink');
    expect(await workbench.skus()).toBe(pressed);
    await workbench.ask('margin < 45 stage is "On sale"');
    expect(await workbench.skus()).toBeLessThan(pressed);
  });

  await test.step('change by hand: the old value stands struck beside the new one', async () => {
    const price = await workbench.cell(0, 'price');
    const before = (await price.textContent())!.trim();
    await price.click();
    await expect(page.getByText('The shopper pays')).toBeVisible();
    await page.keyboard.type('33.33');
    await page.keyboard.press('Enter');
    await expect(price.locator('del')).toHaveText(before);
    await expect(workbench.proofBar()).toContainText('1 change on 1 SKU');
    const name = await workbench.cell(1, 'name');
    await name.dblclick();
    await page.keyboard.press('Control+A');
    await page.keyboard.type('Renamed by hand');
    await page.keyboard.press('Enter');
    await expect(workbench.proofBar()).toContainText('2 changes');
  });

  let changes = 0;
  await test.step('change by rule: 20 and 20 % are told apart, the effect is shown while typing', async () => {
    await page.getByRole('button', { name: 'Rule on this set' }).click();
    const amount = page.getByLabel('by, Step 1');
    await amount.fill('20');
    await expect(page.getByText('£20.00 each')).toBeVisible();
    await amount.fill('10 %');
    await expect(page.getByText('10 % of it')).toBeVisible();
    const whole = page.waitForResponse((response) => !!response.request().postData()?.includes('"ending":".99"'));
    const typed = page.getByLabel('Add a step by typing it');
    await typed.fill('round regular price to .99');
    await typed.press('Enter');
    await whole;
    await expect(page.locator('.effect')).toHaveAttribute('aria-busy', 'false');
    await expect(page.locator('.tally')).toContainText('stay as they are');
    // Read at once: the numbers belong together.
    const tally = await page.locator('.tally').textContent();
    const [changing, staying, stopped] = [/SKUs change/, /stay/, /are stopped/].map((word) =>
      Workbench.number(tally, word),
    );
    changes = changing!;
    const answer = page.locator('.sentence p').first();
    // Nothing is said of guards that stop nothing.
    expect(changes + staying! + (stopped || 0)).toBe(Workbench.number(await answer.textContent(), /SKUs/));
    await expect(
      page.getByRole('group', { name: 'SKUs by regular price, in GBP' }).locator('rect.after').first(),
    ).toBeAttached();
    await page.getByRole('button', { name: 'Put into the proof' }).click();
  });

  await test.step('proof: groups, things to look at, leaving out, landing', async () => {
    await expect(page.getByRole('heading', { name: 'Proof' })).toBeVisible();
    const table = page.getByRole('table', { name: 'Proof' });
    await expect(table.getByRole('row')).not.toHaveCount(1);
    await page.getByRole('button', { name: /^name 1$/ }).click();
    await expect(table.getByRole('row')).toHaveCount(2);
    await expect(table).toContainText('Renamed by hand');
    await page.getByRole('button', { name: 'Leave these out' }).click();
    await expect(page.getByRole('button', { name: /left out 1$/ })).toBeVisible();
    await page.getByRole('button', { name: /^All/ }).click();
    await page.getByRole('button', { name: /^Land / }).click();
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await expect(
      page
        .getByRole('button', { name: /raise regular price by 10 %, then round regular price nearest to .99/ })
        .first(),
    ).toBeVisible();
  });

  await test.step('outlet: readiness by reason, the feed handed over, the replies at the SKU', async () => {
    await workbench.desk('Outlets');
    const ready = Workbench.number(await page.getByRole('button', { name: /ready$/ }).textContent(), /ready/);
    await page.getByRole('button', { name: 'Write and hand over' }).click();
    await expect(page.getByText(/accepted, \d+ accepted with advice, \d+ refused/)).toBeVisible({ timeout: 30_000 });
    const replies = await page.locator('td', { hasText: /accepted with advice/ }).textContent();
    const sum = [...replies!.matchAll(/\d+/g)].reduce((all, [number]) => all + Number(number), 0);
    expect(sum).toBe(ready);
    const refused = Workbench.number(replies, /refused/);
    await page.getByRole('button', { name: /refused$/ }).click();
    await expect(page.getByRole('button', { name: 'Open reply is refused for changing' })).toBeVisible();
    await expect(workbench.counts()).toContainText(`${refused} SKU`);
    await (await workbench.cell(0, 'name')).click();
    await expect(page.getByText('asks is above the limit of this engine, 250.00')).toBeVisible();
  });

  await test.step('shop: what has landed is what shoppers see', async () => {
    const link = await page.getByRole('link', { name: 'In the shop' }).getAttribute('href');
    const name = await page.locator('ivory-slip h2').textContent();
    const visit = await page.context().newPage();
    await visit.goto(link!);
    await expect(visit.getByRole('heading', { name: name!.trim() })).toBeVisible();
    await visit.goto(shop.storefront);
    await expect(visit.getByRole('heading', { name: 'Gift table' })).toBeVisible();
  });

  await test.step('journal: what landed is taken back', async () => {
    await workbench.desk('Journal');
    await page
      .getByRole('row', { name: /raise regular price by 10 %/ })
      .getByRole('button', { name: 'Take back' })
      .click();
    await expect(page.getByRole('heading', { name: /Take back: / })).toBeVisible();
    await page.getByRole('button', { name: /^Land / }).click();
    await expect(page.getByRole('row', { name: /raise regular price by 10 %/ }).last()).toContainText('taken back');
  });
});
