import { chromium } from '@playwright/test';
export const open = async (url = 'http://127.0.0.1:4300/range') => {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-dev-shm-usage',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('console', (m) => {
    if (['error', 'warning'].includes(m.type())) console.log('console', m.type(), m.text().slice(0, 300));
  });
  page.on('pageerror', (e) => console.log('pageerror', e.message.slice(0, 400)));
  await page.goto(url);
  return { browser, page };
};
