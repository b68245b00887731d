import { test as base, expect, type Page } from '@playwright/test';
import { forgetFirst, type RunningShop, startShop } from './runningShop.ts';

/** Tests get a shop and a page that is open at it; an error in the browser's console fails the test. */
export const test = base.extend<{ shop: RunningShop; workbench: Workbench }, { shops: undefined }>({
  shops: [
    async ({}, use) => {
      await use(undefined);
      await forgetFirst();
    },
    { scope: 'worker' },
  ],
  shop: async ({ shops: _ }, use) => {
    const shop = await startShop();
    await use(shop);
    await shop.stop();
  },
  workbench: async ({ page, shop }, use) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await page.goto(shop.address);
    await use(new Workbench(page));
    expect(errors).toEqual([]);
  },
});
export { expect, type RunningShop };

/** What a user sees of the frame, by the names that it has for everybody. */
export class Workbench {
  constructor(readonly page: Page) {}

  /** Asks a question and puts a rule on its rows into the proof, which is looked through then. */
  async byRule(question: string, line: string): Promise<void> {
    await this.ask(question);
    await this.question().blur();
    await this.page.keyboard.press('r');
    await this.page.getByLabel('Add a step by typing it').fill(line);
    await this.page.keyboard.press('Enter');
    await this.page.getByRole('button', { name: 'Put into the proof' }).click();
    await expect(this.page.getByRole('heading', { name: 'Proof', exact: true })).toBeVisible();
  }

  readonly question = () => this.page.getByRole('combobox', { name: 'Question' });
  readonly counts = () => this.page.locator('output.counts');
  readonly proofBar = () => this.page.getByRole('region', { name: 'Proof' });
  readonly rows = () => this.page.locator('revogr-data[type=rgRow] .rgRow');

  /** A row of the sheet by its place in the set, wherever the sheet is scrolled to. */
  readonly rowAt = (place: number) => this.page.locator(`revogr-data[type=rgRow] .rgRow[data-rgrow="${place}"]`);

  /** Opens a desk, and waits until the page before it is gone. */
  async desk(name: 'Range' | 'Prices' | 'Stock' | 'Findability' | 'Outlets' | 'Journal'): Promise<void> {
    const link = this.page.getByRole('link', { name, exact: true });
    await link.click();
    await expect(link).toHaveAttribute('aria-current', 'page');
  }

  async ask(question: string): Promise<void> {
    await this.question().fill(question);
    await this.question().press('Escape');
    await this.question().press('Enter');
    await expect(this.question()).toHaveValue('');
  }

  /** A cell of the sheet, by its row from the top and the beginning of its heading. */
  async cell(row: number, heading: string) {
    const shown = this.page.locator('revogr-header .rgHeaderCell');
    await expect(shown.first()).toBeVisible();
    const headings = await shown.allTextContents();
    const column = headings.findIndex((text) => text.trim().startsWith(heading));
    expect(column, `${heading} among ${headings.join()}`).toBeGreaterThanOrEqual(0);
    return this.rows().nth(row).locator('.rgCell').nth(column);
  }

  /** Chooses an option of a select by its name for everybody. */
  async choose(label: string, option: string): Promise<void> {
    await this.page.getByLabel(label).last().locator('xpath=ancestor-or-self::nz-select[1]').click();
    await this.page.locator(`nz-option-item[title="${option}"]`).click();
  }

  /** The number in a text such as "58 changes on 58 SKUs". */
  static number(text: string | null, before: RegExp): number {
    const found = new RegExp(`([\\d,]+)\\s+${before.source}`).exec(text ?? '');
    return Number(found?.[1]?.replaceAll(',', '') ?? NaN);
  }

  async skus(): Promise<number> {
    return Workbench.number(await this.counts().textContent(), /SKU/);
  }
}
