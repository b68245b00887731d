import { open } from './.shot.mjs';
const { browser, page } = await open();
await page.waitForTimeout(2500);
await page.screenshot({ path: '/tmp/s1.png' });
await browser.close();
