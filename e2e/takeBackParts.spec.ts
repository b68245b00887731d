import { expect, test } from './shop.ts';

test('a rule is set aside and taken up, lands, and is taken back except where prices were corrected since', async ({
  workbench,
  page,
}) => {
  const price = async () => (await (await workbench.cell(0, 'price')).textContent())!.trim();
  await workbench.ask('in Ink name contains pigment');
  const before = await price();

  await test.step('the proof is set aside under a name, another is made, and the first is taken up again', async () => {
    await workbench.byRule('in Ink name contains pigment', 'raise regular price by 4 %');
    await page.getByRole('button', { name: 'Set it aside under a name' }).click();
    await page.getByLabel('Name of the proof').fill('Pigments dearer');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Pigments dearer' })).toBeVisible();
    await workbench.desk('Range');
    await workbench.byRule('in Ink price > 20', 'raise regular price by 1 %');
    await expect(page.getByText(/values are also in/)).toBeVisible();
    await page
      .getByRole('link', { name: /^Pigments dearer/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Take it up again' }).click();
    await expect(page.getByText('Another proof is in hand.')).toBeVisible();
    await page
      .getByRole('link', { name: /in hand/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Discard the proof' }).click();
    await workbench.desk('Journal');
    await page.getByRole('link', { name: 'Pigments dearer' }).click();
    await page.getByRole('button', { name: 'Take it up again' }).click();
    // It keeps its name, also in the journal.
    await expect(page.getByRole('heading', { name: 'Pigments dearer' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Set it aside under a name' })).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
  });

  await test.step('one price is corrected since', async () => {
    await workbench.desk('Range');
    await workbench.ask('in Ink name contains pigment');
    expect(await price()).not.toBe(before);
    await (await workbench.cell(1, 'price')).click();
    await page.keyboard.type('55.55');
    await page.keyboard.press('Enter');
    await workbench.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(workbench.proofBar()).toBeHidden();
  });

  await test.step('the landing is found, named, and its rows are taken back: all but the corrected one', async () => {
    await page.keyboard.press('Escape');
    await workbench.desk('Journal');
    await page.getByLabel('Find a landing').fill('pigments dearer');
    await expect(page.locator('tbody button.opens[aria-expanded]')).toHaveCount(1);
    await page.locator('tbody button.opens[aria-expanded]').click();
    await page.getByRole('button', { name: 'Name it, note something' }).click();
    await page.getByLabel('Name of the landing').fill('Autumn raise');
    await page.keyboard.press('Enter');
    // It is still found by what it was called when it landed.
    await expect(page.getByRole('button', { name: 'Autumn raise', exact: true })).toBeVisible();
    await page.getByLabel('Find a landing').fill('autumn');
    await expect(page.getByRole('button', { name: 'Autumn raise', exact: true })).toBeVisible();
    await page.getByRole('button', { name: /^regular price/ }).click();
    await page.getByRole('button', { name: 'Take back regular price alone' }).click();
    await expect(page.getByRole('button', { name: /^changed since/ })).toContainText('1');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
    await workbench.desk('Range');
    await workbench.ask('in Ink name contains pigment');
    expect(await price()).toBe(before);
    await expect(await workbench.cell(1, 'price')).toHaveText('55.55');
  });
});
