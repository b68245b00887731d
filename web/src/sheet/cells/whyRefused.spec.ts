import { type CellEdit } from '../rows/sheetRows.ts';
import { whyRefused } from './whyRefused.ts';

const cell = (code: string, key: CellEdit['key']): CellEdit => ({
  row: { place: 0, landed: { code } },
  key,
  text: 'x',
});

describe('why a cell was refused', () => {
  const problem = {
    type: 'about:blank',
    title: 'Nothing was taken in.',
    status: 422,
    places: [{ code: 'required', field: 'name', row: 'IG-1' }],
  };

  it('is what is wrong with it, or else what is wrong with all', () => {
    expect(whyRefused(problem, cell('IG-1', 'name'))).toContain('must be filled in');
    expect(whyRefused(problem, cell('IG-2', 'name'))).toBe('Nothing was taken in.');
    expect(whyRefused(problem, cell('IG-1', 'price'))).toBe('Nothing was taken in.');
    expect(
      whyRefused({ type: 'about:blank', title: 'The server does not answer.', status: 0 }, cell('A', 'name')),
    ).toBe('The server does not answer.');
  });
});
