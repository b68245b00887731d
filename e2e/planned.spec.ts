import { expect, type RunningShop, test } from './shop.ts';

const DAY_MS = 24 * 60 * 60 * 1_000;
/** A day of the shop's calendar, so many days from now. */
const day = (fromNow: number): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/London' }).format(Date.now() + fromNow * DAY_MS);

/** Moves all that is planned so far ahead that it happens in a second: time does not pass for a test. */
async function comes({ address }: RunningShop, what: 'landing' | 'taking back'): Promise<void> {
  const { planned } = (await (await fetch(`${address}/api/planned`)).json()) as {
    planned: { id: string; back: string | null; whenChanged: string }[];
  };
  for (const { id, back, whenChanged } of planned) {
    const soon = Date.now() + 1_000;
    const body = what === 'landing' ? { at: soon, back: back && Date.parse(back) } : { at: null, back: soon };
    await fetch(`${address}/api/planned/${id}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: address },
      body: JSON.stringify({ ...body, whenChanged }),
    });
  }
}

test('a season moves goods to the front page and back, in calendar and journal, and waits where something changed', async ({
  workbench,
  shop,
  page,
}) => {
  test.slow();
  const front = async () => {
    const shopper = await page.context().newPage();
    await shopper.goto(shop.storefront);
    const text = await shopper.locator('main').innerText();
    await shopper.close();
    return text;
  };
  const first = async () => (await (await workbench.cell(0, 'name')).textContent())!.trim();
  const planned = page.getByRole('region', { name: 'Planned' });
  const question = 'brand is "Harrow & Pine" stage is "On sale" stock > 0 assortment is empty';

  await test.step('ten goods are put into an assortment of the front page, from one day to another', async () => {
    await workbench.byRule(question, 'add Gift table to put in by hand');
    await page.getByRole('button', { name: 'At a moment' }).click();
    const form = page.getByRole('form', { name: 'When it lands' });
    await expect(form.getByLabel('Lands on')).toBeFocused();
    await form.getByRole('button', { name: 'Plan it' }).click();
    await expect(form.page().getByText('Say when it lands, or when it is taken back.')).toBeVisible();
    await form.getByLabel('Lands on').fill(day(3));
    await form.getByLabel('Taken back on').fill(day(2));
    await form.getByRole('button', { name: 'Plan it' }).click();
    await expect(page.getByText(/would be taken back before it lands/)).toBeVisible();
    await form.getByLabel('Taken back on').fill(day(40));
    await form.getByRole('button', { name: 'Plan it' }).click();
    await expect(page.getByText(/^lands on .*, is taken back on /)).toBeVisible();
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('it stands in the calendar and opens from there; a coming moment says that it is not in it', async () => {
    await workbench.desk('Prices');
    await page.getByRole('link', { name: 'Calendar' }).click();
    await page.getByRole('link', { name: /Gift table/ }).click();
    await expect(page.getByText(/^lands on .*, is taken back on /)).toBeVisible();
    await workbench.desk('Range');
    await page.keyboard.press('m');
    await page.getByLabel('day', { exact: true }).fill(day(5));
    await page.getByLabel('day', { exact: true }).press('Enter');
    await expect(page.getByText('1 landing that is planned until then is not in it.')).toBeVisible();
    await page.getByRole('button', { name: 'Back to now' }).click();
  });

  let goods = '';
  await test.step('its moment comes: the goods are on the front page, and the journal has the landing', async () => {
    await workbench.ask(question);
    goods = await first();
    expect(await front()).not.toContain(goods);
    await workbench.desk('Journal');
    await comes(shop, 'landing');
    await expect(planned.getByText(/^landed, is taken back on /)).toBeVisible({ timeout: 15_000 });
    await expect(page.getByRole('button', { name: /Gift table/ }).first()).toBeVisible();
    expect(await front()).toContain(goods);
  });

  await test.step('and goes: they are where they were, of themselves', async () => {
    await comes(shop, 'taking back');
    await expect(planned).toBeHidden({ timeout: 15_000 });
    expect(await front()).not.toContain(goods);
  });

  await test.step('what changed meanwhile waits for a person, who is told of it wherever they are', async () => {
    await workbench.desk('Range');
    await page.getByRole('button', { name: 'Ask for everything' }).click();
    await workbench.byRule('in Ink price > 20', 'raise regular price by 10 %');
    await page.getByRole('button', { name: 'At a moment' }).click();
    const form = page.getByRole('form', { name: 'When it lands' });
    await form.getByLabel('Lands on').fill(day(1));
    await form.getByRole('button', { name: 'Plan it' }).click();
    await expect(page.getByText(/^lands on /)).toBeVisible();
    await workbench.desk('Range');
    await (await workbench.cell(0, 'price')).click();
    await page.keyboard.type('33.33');
    await page.keyboard.press('Enter');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(workbench.proofBar()).toBeHidden();
    await comes(shop, 'landing');
    await expect(page.getByRole('link', { name: '1 planned landing waits for you' })).toBeVisible({ timeout: 15_000 });
    await workbench.desk('Journal');
    await expect(planned.getByText(/1 value has changed since this was proposed/)).toBeVisible();
    await planned.getByRole('link').first().click();
    await expect(page.getByRole('button', { name: /^Land \d+ changes/ })).toBeEnabled();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await expect(planned).toBeHidden();
    await expect(page.getByRole('link', { name: '1 planned landing waits for you' })).toHaveCount(0);
  });
});
