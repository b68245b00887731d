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
        counts: { skus: 1234, products: 300 },
      },
    }).settled();

  it('says what the file holds, and asks for it as the sheet stands', async () => {
    localStorage.removeItem('ivory.takeOut');
    const page = await open();
    expect(page.texts('span')[0]).toBe('1,234 SKUs as CSV, with: code, name, regular price, goes well with');
    const link = new URL(page.host.querySelector('a')!.href);
    expect(Object.fromEntries(link.searchParams)).toEqual({
      question: 'in Ink price < 5',
      columns: 'code,name,price,goesWith',
      sort: '{"field":"price","down":true}',
      of: 'SKUs',
      separator: 'comma',
      decimalSign: '.',
      encoding: 'utf-8',
      digits: 'plain',
    });
  });

  it('by product holds what is the product’s own, behind the code of its first SKU', async () => {
    const page = await Page.open(TakeOut, new FakeApi(), {
      inputs: {
        question: '',
        sort: { field: 'name', down: false },
        keys: ['name', 'price', 'brand'],
        counts: { skus: 1234, products: 300 },
        rowsOf: 'products',
      },
    }).settled();
    expect(page.texts('span')[0]).toContain('300 products as CSV');
    const link = new URL(page.host.querySelector('a')!.href);
    expect([link.searchParams.get('of'), link.searchParams.get('columns')]).toEqual(['products', 'code,name,brand']);
  });

  it('keeps the dialect that was chosen', async () => {
    localStorage.setItem('ivory.takeOut', '{"separator":"semicolon"}');
    const page = await open();
    expect(page.host.querySelector('a')!.href).toContain('separator=semicolon');
    localStorage.removeItem('ivory.takeOut');
  });
});
