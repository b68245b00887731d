import { stepFrom, within } from './steps.ts';

describe('keys that lead from cell to cell', () => {
  const extent = { columns: 5, rows: 1_000, page: 20 };
  const step = (key: string, more: Partial<KeyboardEvent> = {}, from = { x: 2, y: 100 }) =>
    stepFrom(from, { key, ctrlKey: false, metaKey: false, altKey: false, ...more }, extent);

  it('go one cell with the arrows, and stay at the edge', () => {
    expect(step('ArrowDown')).toEqual({ x: 2, y: 101 });
    expect(step('ArrowLeft')).toEqual({ x: 1, y: 100 });
    expect(step('ArrowUp', {}, { x: 0, y: 0 })).toEqual({ x: 0, y: 0 });
    expect(step('ArrowRight', {}, { x: 4, y: 999 })).toEqual({ x: 4, y: 999 });
  });

  it('go as many rows as are seen with PageUp and PageDown', () => {
    expect(step('PageDown')).toEqual({ x: 2, y: 120 });
    expect(step('PageUp', {}, { x: 2, y: 5 })).toEqual({ x: 2, y: 0 });
  });

  it('go to the ends of the row with Home and End, and of all rows with Ctrl', () => {
    expect([step('Home'), step('End')]).toEqual([
      { x: 0, y: 100 },
      { x: 4, y: 100 },
    ]);
    expect([step('Home', { ctrlKey: true }), step('End', { metaKey: true })]).toEqual([
      { x: 0, y: 0 },
      { x: 4, y: 999 },
    ]);
  });

  it('are no others, and none that are pressed with Alt', () => {
    expect([step('a'), step('F2'), step('Home', { altKey: true }), step('PageDown', { ctrlKey: true })]).toEqual(
      Array(4).fill(undefined),
    );
  });

  it('lead nowhere that is not there', () => {
    expect(within({ x: 9, y: -3 }, extent)).toEqual({ x: 4, y: 0 });
  });
});
