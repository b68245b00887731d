import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { RichText } from './richText.ts';

describe('a text that is marked up', () => {
  const open = async (text: string) => {
    const inputs = { label: 'description', boxId: 'folio-description', text };
    const page = await Page.open(RichText, new FakeApi(), { inputs }).settled();
    document.body.append(page.host);
    const changes: string[] = [];
    page.fixture.componentInstance.changed.subscribe((html) => changes.push(html));
    await page.until(() => page.host.querySelector('[role=textbox]') !== null);
    return { page, changes, box: page.host.querySelector<HTMLElement>('[role=textbox]')! };
  };
  const leave = async (page: Page<RichText>, box: HTMLElement) => {
    box.blur();
    box.dispatchEvent(new FocusEvent('blur'));
    await page.settled();
  };

  it('shows plain paragraphs as such, says how long they are, and tells nothing that was not changed', async () => {
    const { page, changes, box } = await open('A holder.\n\nOf <cork> & oak.');
    expect([...box.querySelectorAll('p')].map((one) => one.textContent)).toEqual(['A holder.', 'Of <cork> & oak.']);
    expect(page.texts('.count')).toEqual(['6 words, 26 characters']);
    expect(box.getAttribute('aria-label')).toBe('description');
    box.focus();
    await leave(page, box);
    expect(changes).toEqual([]);
    page.host.remove();
  });

  it('is marked up by its strip, and told as a whole when it is left', async () => {
    const { page, changes, box } = await open('Of cork');
    box.focus();
    getSelection()!.selectAllChildren(box.querySelector('p')!);
    // The editor learns of the selection from the browser, in the browser's own time.
    await page.until(() => getSelection()!.toString() === 'Of cork');
    await new Promise((go) => setTimeout(go, 50));
    await page.press('B');
    await page.press('•');
    expect(page.host.querySelector('[aria-pressed=true]')).not.toBeNull();
    await leave(page, box);
    expect(changes).toEqual(['<ul><li><p><strong>Of cork</strong></p></li></ul>']);
    page.host.remove();
  });
});
