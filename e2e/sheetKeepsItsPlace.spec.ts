import { type APIRequestContext, type Page } from '@playwright/test';
import { type Workbench, expect, test } from './shop.ts';

/** Somebody lands a change elsewhere, as another browser would. */
async function landElsewhere(request: APIRequestContext, address: string, colour: string): Promise<void> {
  const post = async <Answer>(path: string, data: object) =>
    (await (await request.post(address + path, { data })).json()) as Answer;
  const last = { question: '', sort: { field: 'code', down: true } };
  const { rows } = await post<{ rows: string[][] }>('/api/answers', last);
  const edits = [{ kind: 'sku', id: rows[0]![0], field: 'own:1', text: colour }];
  const { proof } = await post<{ proof: { id: string } }>('/api/hand/edits', { title: 'elsewhere', edits });
  const { landing } = await post<{ landing: string }>(`/api/proofs/${proof.id}/land`, {});
  expect(landing).toMatch(/^\d+$/);
}

/** Scrolls the sheet down, and waits until the rows there are loaded. */
async function scrollDown(page: Page, workbench: Workbench): Promise<void> {
  await page.locator('revo-grid').hover();
  await page.mouse.wheel(0, 9_000);
  await expect(workbench.rowAt(300)).not.toContainText('·');
}

test('the sheet keeps its place, and what is typed, while the shop changes under it', async ({
  workbench,
  page,
  shop,
}) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');

  await test.step('what is being typed stays when somebody lands something', async () => {
    await scrollDown(page, workbench);
    await workbench.rowAt(306).locator('.rgCell').nth(1).click();
    const heading = page.locator('ivory-slip h2');
    await expect(heading).not.toHaveText('The working set');
    const name = await heading.textContent();
    await page.keyboard.type('HALF-');
    const again = page.waitForResponse(/\/api\/answers$/);
    await landElsewhere(page.request, shop.address, 'Dusk');
    await again;
    await page.keyboard.type('WHOLE');
    await page.keyboard.press('Enter');
    await expect(workbench.rowAt(306)).toContainText('HALF-WHOLE');
    await expect(workbench.proofBar()).toContainText('1 change');
    await page.keyboard.press('ArrowUp');
    await expect(heading).toHaveText(name!);
  });

  await test.step('another order begins at its top, with its rows loaded', async () => {
    await page.locator('revogr-header .rgHeaderCell', { hasText: 'code' }).click();
    await expect(workbench.rowAt(0)).not.toContainText('·');
    await expect(workbench.rowAt(0)).toBeInViewport();
  });

  await test.step('and so does another question', async () => {
    await scrollDown(page, workbench);
    await workbench.ask('stock > 0');
    await expect(workbench.rowAt(0)).not.toContainText('·');
    await expect(workbench.rowAt(0)).toBeInViewport();
  });

  await test.step('the question outlives a reload and goes to another desk; Back leads to the one before', async () => {
    await workbench.ask('in Ink');
    const set = page.getByRole('button', { name: 'Open in Ink for changing' });
    await workbench.desk('Prices');
    await expect(page).toHaveURL(/\/prices\?q=stock%20%3E%200%20in%20Ink$/);
    await page.reload();
    await expect(set).toBeVisible();
    await expect(page).toHaveURL(/\/prices\?q=stock%20%3E%200%20in%20Ink$/);
    await page.goBack();
    await expect(page).toHaveURL(/\/range\?q=stock%20%3E%200%20in%20Ink$/);
    await page.goBack();
    await expect(set).toBeHidden();
    await expect(page.getByRole('button', { name: 'Open stock > 0 for changing' })).toBeVisible();
    await page.goto(`${shop.address}/range?q=brand%20is%20Nobody`);
    await expect(page.getByRole('alert')).toContainText('There is no brand called “Nobody”');
    await expect(workbench.counts()).toContainText('1,200 SKUs');
  });
});
