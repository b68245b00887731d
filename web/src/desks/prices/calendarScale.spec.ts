import { CalendarScale, movedDays } from './calendarScale.ts';

describe('the scale of the calendar', () => {
  const scale = new CalendarScale({ first: 100, behind: 110 }, 1_000);

  it('has a day begin at its left edge, and says how many days a way is', () => {
    expect([scale.at(100), scale.at(105), scale.at(110)]).toEqual([0, 500, 1_000]);
    expect([scale.daysAcross(0), scale.daysAcross(-460), scale.daysAcross(440)]).toEqual([0, -5, 4]);
  });

  it('draws days with their last, and says where they go on', () => {
    expect(scale.extentOf({ from: 102, until: 102 })).toEqual({
      left: 200,
      width: 100,
      goesBefore: false,
      goesBehind: false,
    });
    expect(scale.extentOf({ from: null, until: 100 })).toEqual(
      jasmine.objectContaining({ left: 0, width: 100, goesBefore: true }),
    );
    expect(scale.extentOf({ from: 109, until: null })).toEqual(
      jasmine.objectContaining({ left: 900, width: 100, goesBehind: true }),
    );
  });

  it('draws nothing of days that are not seen, however near they are', () => {
    expect(scale.extentOf({ from: 110, until: 120 })).toBeUndefined();
    expect(scale.extentOf({ from: 90, until: 99 })).toBeUndefined();
    expect(scale.extentOf({ from: 105, until: 104 })).toBeUndefined();
  });

  it('names days that lie apart from one another', () => {
    const places = scale.ticks.map(({ x }) => x);
    expect(places.length).toBeGreaterThan(2);
    for (const [i, x] of places.slice(1).entries()) expect(x - places[i]!).toBeGreaterThan(60);
  });
});

describe('days that are moved', () => {
  it('keep their length, or move one edge; an open edge stays open', () => {
    expect(movedDays({ from: 5, until: 9 }, 2, 'both')).toEqual({ from: 7, until: 11 });
    expect(movedDays({ from: 5, until: 9 }, -1, 'until')).toEqual({ from: 5, until: 8 });
    expect(movedDays({ from: 5, until: null }, 3, 'until')).toEqual({ from: 5, until: null });
  });

  it('move also where they are a part of one day', () => {
    expect(movedDays({ from: 5.5, until: 4.75 }, 1, 'both')).toEqual({ from: 6.5, until: 5.75 });
  });

  it('never end before they begin', () => {
    expect(movedDays({ from: 5, until: 5 }, -1, 'until')).toBeUndefined();
    expect(movedDays({ from: 5, until: 5 }, 1, 'from')).toBeUndefined();
  });
});
