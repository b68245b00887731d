import { open } from './.shot.mjs';
const { browser, page } = await open('about:blank');
page.on('response', (r) => {
  if (r.status() >= 400 || r.url().includes('pictures')) console.log(r.status(), r.url(), r.headers()['content-type']);
});
await page.goto('http://127.0.0.1:4300/range');
await page.waitForTimeout(2500);
console.log(
  await page.evaluate(() => {
    const i = document.querySelector('img.cell-picture');
    return i && [i.src, i.complete, i.naturalWidth];
  }),
);
await browser.close();
