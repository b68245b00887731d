import { TestBed } from '@angular/core/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { MARGIN_EDGES, PRICE_EDGES } from '@ivory/core';
import { Bars } from './bars.ts';
import { byQuestionOrCount, marginBars, type OpensBar, priceBars } from './spreadBars.ts';

const counts = (length: number) => Array.from({ length }, (_, i) => ({ before: i, after: 2 * i }));

describe('the bars of a spread', () => {
  it('open what they count now by a question within the present one', () => {
    const bars = priceBars(counts(PRICE_EDGES.length), byQuestionOrCount('in Ink'), false);
    expect(bars[2]!.columns).toEqual([
      { kind: 'now', count: 2, name: '2 to 5: 2 SKUs', opens: { question: 'in Ink price >= 2 price < 5' } },
    ]);
    expect(bars.at(-1)!.columns[0]!.opens).toEqual({ question: 'in Ink price >= 500' });
  });

  it('open what a rule would make by counting it', () => {
    const bars = marginBars(counts(MARGIN_EDGES.length), byQuestionOrCount(''), true);
    expect(bars[0]!.label).toBe('<0');
    expect(bars[0]!.columns[0]!.opens).toEqual({ question: 'margin < 0' });
    expect(bars[3]!.columns[1]).toEqual({
      kind: 'after',
      count: 6,
      name: '20 to 30 %: 6 SKUs after',
      opens: { count: { of: 'margins', bar: 3 } },
    });
  });
});

describe('the chart', () => {
  function draw(bars: ReturnType<typeof priceBars<OpensBar>>) {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent<Bars<OpensBar>>(Bars);
    fixture.componentRef.setInput('bars', bars);
    fixture.componentRef.setInput('axis', 'SKUs by price');
    fixture.detectChanges();
    return fixture;
  }

  it('draws a column for every count, as high as it is large, and names it', () => {
    const nativeElement = draw(priceBars(counts(PRICE_EDGES.length), byQuestionOrCount(''), true))
      .nativeElement as HTMLElement;
    const columns = [...nativeElement.querySelectorAll('.bar')];
    expect(columns).toHaveSize(PRICE_EDGES.length * 2);
    expect(columns[4]!.getAttribute('aria-label')).toBe('2 to 5: 2 SKUs before');
    const heights = [...nativeElement.querySelectorAll('rect.after')].map((rect) =>
      Number(rect.getAttribute('height')),
    );
    expect(heights[0]).toBe(0);
    expect(heights[4]! / heights[2]!).toBeCloseTo(2, 5);
  });

  it('makes room for long numbers at its side', () => {
    const left = (most: number) => {
      TestBed.resetTestingModule();
      const bars = [{ before: most, after: 0 }];
      const host = draw(priceBars(bars, byQuestionOrCount(''), false)).nativeElement as HTMLElement;
      return Number(host.querySelector('line')!.getAttribute('x1'));
    };
    expect(left(40_000)).toBeGreaterThan(left(4_000));
    expect(left(4_000)).toBe(left(4));
  });

  it('opens a column by mouse and by keyboard', () => {
    const fixture = draw(priceBars(counts(PRICE_EDGES.length), byQuestionOrCount(''), false));
    const opened: OpensBar[] = [];
    fixture.componentInstance.opens.subscribe((opens) => opened.push(opens));
    const [empty, first, second] = (fixture.nativeElement as HTMLElement).querySelectorAll('.bar');
    first!.dispatchEvent(new MouseEvent('click'));
    second!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(opened).toEqual([{ question: 'price >= 1 price < 2' }, { question: 'price >= 2 price < 5' }]);
    // A bar of nothing is passed over by Tab and opens nothing.
    empty!.dispatchEvent(new MouseEvent('click'));
    expect([empty!.getAttribute('tabindex'), empty!.getAttribute('role'), opened.length]).toEqual([null, 'img', 2]);
    expect(first!.getAttribute('tabindex')).toBe('0');
  });
});
