import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { TakeOut } from './takeOut.ts';

describe('taking out', () => {
  const open = () =>
    Page.open(TakeOut, new FakeApi(), {
      inputs: {
        question: 'in Ink price < 5',
        sort: { field: 'price', down: true },
        keys: ['name', 'price', 'goesWith'],
        skus: 1234,
      },
    }).settled();

  it('says what the file holds, and asks for it as the sheet stands', async () => {
    localStorage.removeItem('ivory.takeOut');
    const page = await open();
    expect(page.texts('span')[0]).toBe('1,234 SKUs as CSV, with: code, name, regular price');
    const link = new URL(page.host.querySelector('a')!.href);
    expect(Object.fromEntries(link.searchParams)).toEqual({
      question: 'in Ink price < 5',
      columns: 'code,name,price',
      sort: '{"field":"price","down":true}',
      separator: 'comma',
      decimalSign: '.',
      encoding: 'utf-8',
    });
  });

  it('keeps the dialect that was chosen', async () => {
    localStorage.setItem('ivory.takeOut', '{"separator":"semicolon"}');
    const page = await open();
    expect(page.host.querySelector('a')!.href).toContain('separator=semicolon');
    localStorage.removeItem('ivory.takeOut');
  });
});
