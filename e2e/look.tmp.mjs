import { chromium } from '@playwright/test';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('PAGEERROR', e.message.slice(0, 300)));
page.on('console', (m) => {
  if (m.type() === 'error') console.log('CONSOLE', m.text().slice(0, 300));
});
const shot = (n) => page.screenshot({ path: `/tmp/shots/${n}.png` });
const base = 'http://127.0.0.1:4300';
const steps = (await import(process.argv[2])).default;
await steps({ page, shot, base, wait: (ms) => page.waitForTimeout(ms) });
await browser.close();
