import { open } from './.shot.mjs';
const { browser, page } = await open();
await page.waitForTimeout(1500);
await page
  .locator('input[type=file]')
  .setInputFiles('../demo/supplier-files/northgate-trade-autumn.csv')
  .catch(() => page.locator('input[type=file]').setInputFiles('demo/supplier-files/northgate-trade-autumn.csv'));
await page.waitForURL('**/import/*');
await page.waitForTimeout(700);
await page.screenshot({ path: '/tmp/s1.png' });
await page.click('text=Read the file into a proof');
await page.waitForURL('**/proof/*');
await page.waitForTimeout(1200);
await page.screenshot({ path: '/tmp/s2.png' });
await page.keyboard.press('Control+Enter');
await page.waitForURL('**/journal');
await page.waitForTimeout(2500);
await page.screenshot({ path: '/tmp/s3.png' });
await page.click('text=Outlets');
await page.waitForTimeout(800);
await page.click('text=Write and hand over');
await page.waitForTimeout(3500);
await page.screenshot({ path: '/tmp/s4.png' });
await browser.close();
