import { Workbench, expect, test } from './shop.ts';

test('many tabs stand side by side, and each shows what another did', async ({ workbench, page, context, shop }) => {
  await expect(workbench.counts()).toContainText('1,200 SKUs');
  // A browser has six connections to a server over HTTP/1.1.
  const tabs: Workbench[] = [];
  for (let tab = 0; tab < 7; tab++) {
    const opened = await context.newPage();
    await opened.goto(shop.address);
    tabs.push(new Workbench(opened));
    await expect(tabs.at(-1)!.counts()).toContainText('1,200 SKUs');
  }
  const [one, another] = [tabs[2]!, tabs[6]!];

  await test.step('an edit in one is in the proof bar of the others', async () => {
    await (await another.cell(0, 'price')).click();
    await another.page.keyboard.type('41.00');
    await another.page.keyboard.press('Enter');
    for (const tab of [workbench, one, another]) await expect(tab.proofBar()).toContainText('1 change');
  });

  await test.step('also when the tab that was opened first is closed', async () => {
    await page.close();
    await another.proofBar().getByRole('button', { name: 'Land' }).click();
    await expect(another.proofBar()).toBeHidden();
    await expect(one.proofBar()).toBeHidden();
    await expect(await one.cell(0, 'price')).toHaveText('41.00');
  });
});
