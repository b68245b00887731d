import { asking, register } from '../../testing/shop.ts';
import { complete, completion } from './completion.ts';

const of = (key: Parameters<typeof register.get>[0], typed: string) => completion(typed, register.get(key), asking);

describe('a name that is typed into a cell', () => {
  it('is completed by the first that begins so, whatever its case and accents', () => {
    expect(of('brand', 'harrow')).toBe(' & Pine');
    expect(of('stage', 'On')).toBe(' sale');
    expect(of('category', 'ink > b')).toBe('ottled');
    expect(of('own:1', 'Bl')).toBe('ue');
  });

  it('is left where it is whole, unknown, or the field has no names', () => {
    expect(of('category', 'Ink')).toBeUndefined();
    expect(of('brand', 'Northgate')).toBeUndefined();
    expect(of('name', 'Har')).toBeUndefined();
    expect(of('brand', '')).toBeUndefined();
    expect(of('brand', 'Moss ')).toBeUndefined();
  });

  it('is the last of several', () => {
    expect(of('tags', 'New, gi')).toBe('ft');
    expect(of('category', 'Paper | in')).toBe('k');
  });

  it('stands chosen behind the caret, so that the next letter takes its place; within a text nothing is added', () => {
    const input = document.createElement('input');
    input.value = 'mo';
    input.setSelectionRange(2, 2);
    complete(input, register.get('brand'), asking);
    expect([input.value, input.selectionStart, input.selectionEnd]).toEqual(['moss Lane', 2, 9]);
    input.value = 'mo';
    input.setSelectionRange(1, 1);
    complete(input, register.get('brand'), asking);
    expect(input.value).toBe('mo');
  });
});
