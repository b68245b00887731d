import { moreColumns } from './moreColumns.ts';

describe('columns that do not fit', () => {
  it('are covered where they are cut, so that no number is half read', () => {
    expect(moreColumns([200, 100, 80, 60], 0, 350)).toEqual({ covered: 50, behind: 2, next: 30 });
    expect(moreColumns([200, 100, 80, 60], 30, 350)).toEqual({ covered: 0, behind: 1, next: 60 });
  });

  it('are none where the last is in sight, and where only its empty edge is not', () => {
    expect(moreColumns([200, 100], 0, 300)).toBeUndefined();
    expect(moreColumns([200, 100], 0, 297)).toBeUndefined();
    expect(moreColumns([], 0, 300)).toBeUndefined();
  });

  it('are shown though cut where one alone is wider than the room', () => {
    expect(moreColumns([500], 0, 300)).toBeUndefined();
    expect(moreColumns([500, 50], 100, 300)).toEqual({ covered: 0, behind: 1, next: 150 });
  });
});
