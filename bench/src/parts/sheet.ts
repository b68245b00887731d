import { type Browser, chromium, type Page } from '@playwright/test';
import { Random } from '@ivory/demo';
import { type Figure, median, quantile } from '../figures.ts';
import { type Ground } from '../serverUnderTest.ts';

const FLAGS = ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--disable-quic', '--no-first-run'];
const JUMPS = 40;
const WHEELS = 80;
const KEYS = 40;

/** The sheet in a browser: the longest gap between frames while the wheel turns, and jumps until rows are loaded. */
export async function benchSheet({ server, skus, runs }: Ground): Promise<Figure[]> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: FLAGS });
  try {
    const views: number[] = [];
    for (let run = 0; run < runs; run++) {
      const page = await emptyPage(browser);
      views.push(await firstView(page, server.address));
      await page.context().close();
    }
    const page = await emptyPage(browser);
    await firstView(page, server.address);
    const frames = await wheel(page);
    const jumps = await jump(page, skus);
    const keys = await arrows(page);
    return [
      { work: 'first view, empty cache: rows on the screen', ours: median(views), limit: { ms: 1_500 } },
      { work: 'key until the next cell has the focus, p95', ours: quantile(keys, 0.95), limit: { ms: 20 } },
      { work: 'wheel: time between frames, p95', ours: quantile(frames, 0.95), limit: { ms: 50 } },
      { work: 'wheel: the longest time between frames', ours: quantile(frames, 1), limit: { ms: 150 } },
      { work: 'jump to any row until it is read, p95', ours: quantile(jumps, 0.95), limit: { ms: 300 } },
    ];
  } finally {
    await browser.close();
  }
}

/** A page of a browser that runs, with nothing kept from before. */
async function emptyPage(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto('about:blank');
  return page;
}

async function firstView(page: Page, address: string): Promise<number> {
  const start = performance.now();
  await page.goto(address);
  await page.waitForFunction(() => document.querySelectorAll('revogr-data .rgRow .goods-name').length > 10);
  return performance.now() - start;
}

/** Arrow keys: from the key until the grid has moved its focus, which the next frame shows. */
async function arrows(page: Page): Promise<number[]> {
  await page.locator('revogr-data .rgCell').first().click();
  await page.evaluate(() => {
    const times: number[] = [];
    let pressed = 0;
    document.addEventListener('keydown', () => (pressed = performance.now()), { capture: true });
    document.querySelector('revo-grid')!.addEventListener('afterfocus', () => times.push(performance.now() - pressed));
    Object.assign(window, { keyTimes: times });
  });
  for (let key = 0; key < KEYS; key++) {
    await page.keyboard.press(key % 4 === 3 ? 'ArrowRight' : 'ArrowDown');
    await page.waitForTimeout(30);
  }
  return page.evaluate(() => (window as unknown as { keyTimes: number[] }).keyTimes);
}

async function wheel(page: Page): Promise<number[]> {
  await page.mouse.move(600, 400);
  await page.evaluate(() => {
    const times: number[] = [];
    const tick = (now: number) => {
      times.push(now);
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
    Object.assign(window, { times });
  });
  for (let turn = 0; turn < WHEELS; turn++) {
    await page.mouse.wheel(0, 400);
    await page.waitForTimeout(16);
  }
  const times = await page.evaluate(() => (window as unknown as { times: number[] }).times);
  return times.slice(1).map((time, i) => time - times[i]!);
}

async function jump(page: Page, skus: number): Promise<number[]> {
  const random = new Random(5);
  const times: number[] = [];
  for (let i = 0; i < JUMPS; i++) {
    const row = random.whole(0, skus - 50);
    times.push(
      await page.evaluate(async (row) => {
        const grid = document.querySelector('revo-grid')!;
        const start = performance.now();
        await (grid as unknown as { scrollToRow(row: number): Promise<void> }).scrollToRow(row);
        const isRead = () => {
          const cells = [...document.querySelectorAll(`revogr-data [data-rgrow="${row}"]`)];
          return cells.length > 0 && cells.every((cell) => !cell.querySelector('.cell-wait'));
        };
        while (!isRead()) await new Promise(requestAnimationFrame);
        return performance.now() - start;
      }, row),
    );
  }
  return times;
}
