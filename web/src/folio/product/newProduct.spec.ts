import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { calls } from '@ivory/contract';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { proof } from '../../testing/shop.ts';
import { NewProduct } from './newProduct.ts';

describe('a new product', () => {
  let api: FakeApi;
  let page: Page<NewProduct>;
  beforeEach(async () => {
    api = new FakeApi().answer(calls.makeProduct, { proof: proof(), product: '77', sku: '88' });
    page = await Page.open(NewProduct, api).settled();
  });
  const write = async (id: string, text: string) => {
    const field = page.host.querySelector<HTMLInputElement>(`#${id}`)!;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await page.settled();
  };
  const send = async () => {
    page.host.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    await page.settled();
  };

  it('needs a name only: code and address are worked out and shown, and its page opens', async () => {
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await send();
    expect(api.inputsOf(calls.makeProduct)).toEqual([]);
    await write('new-name', 'Larkspur Travel Pen');
    await write('new-price', '45');
    expect(page.texts('output')).toEqual(['larkspur-travel-pen']);
    expect(page.host.querySelector<HTMLInputElement>('#new-code')!.placeholder).toContain('LTP-001');
    await send();
    const [sent] = api.inputsOf(calls.makeProduct);
    expect(sent!.body).toEqual({ texts: { name: 'Larkspur Travel Pen' }, sku: { price: '45' } });
    expect(go).toHaveBeenCalledOnceWith(['/folio', 'product', '77']);
  });

  it('says which value is wrong, and can be tried again', async () => {
    api.refuse(calls.makeProduct, 'Nothing was taken in.', [
      { code: 'money-unreadable', value: 'dear', expected: '12.50' },
    ]);
    await write('new-name', 'Pen');
    await send();
    expect(page.texts('[role=alert]')).toEqual(['“dear” is not an amount. Write it like 12.50.']);
    await send();
    expect(api.inputsOf(calls.makeProduct).length).toBe(2);
  });
});
