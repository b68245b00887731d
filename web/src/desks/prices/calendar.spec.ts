import { TestBed } from '@angular/core/testing';
import { type CalendarSale, calls, type Planned } from '@ivory/contract';
import { localDay, momentOf, zonedMoment } from '@ivory/core';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { proof, shop } from '../../testing/shop.ts';
import { shownDays } from '../../words/days.ts';
import { Calendar } from './calendar.ts';
import { CalendarScale } from './calendarScale.ts';

const TODAY = localDay(momentOf(Date.now()), shop.timeZone);
const isoOf = (day: number) => new Date(day * 24 * 60 * 60 * 1_000).toISOString().slice(0, 10);

const sale = (more: Partial<CalendarSale> = {}): CalendarSale => ({
  id: '3',
  name: 'Autumn ink',
  from: TODAY + 5,
  until: TODAY + 20,
  reduction: '200000 0 99 100 0',
  group: null,
  above: false,
  note: '',
  skus: 48,
  proposed: null,
  fromTime: null,
  untilTime: null,
  starts: null,
  ends: null,
  isNew: false,
  question: 'price in Autumn ink is filled',
  ...more,
});

describe('the calendar of sales', () => {
  let api: FakeApi;
  const told = (...sales: CalendarSale[]) =>
    (api = new FakeApi()
      .answer(calls.getCalendar, { formulas: [], sales })
      .answer(calls.editCells, { proof: proof(), pending: [], refused: [] })
      .answer(calls.putRule, { proof: proof() }));
  const open = async (page = Page.open(Calendar, api)) => {
    document.body.append(page.host);
    await page.settled();
    return page.until(() => page.host.querySelector('.bar, .wide') !== null);
  };
  const bar = (page: Page<Calendar>) => page.host.querySelector<HTMLButtonElement>('.bar')!;
  const key = async (page: Page<Calendar>, init: KeyboardEventInit) => {
    bar(page).dispatchEvent(new KeyboardEvent('keydown', { ...init, bubbles: true, cancelable: true }));
    return page.settled();
  };
  /** The bars stand where they are to once it is known how wide the calendar is. */
  const measured = (page: Page<Calendar>) => page.until(() => bar(page).offsetWidth > 10);
  /** As wide as a day of the three months that are seen. */
  const dayWidth = (page: Page<Calendar>) => page.host.querySelector<HTMLElement>('.track')!.clientWidth / 92;
  const edits = () => api.inputsOf(calls.editCells).map(({ body }) => (body as { edits: unknown }).edits);

  it('draws each sale at its days, says them with what it takes off, and counts those that are not seen', async () => {
    told(sale(), sale({ id: '4', name: 'Long ago', from: TODAY - 900, until: TODAY - 890 }));
    const page = await open();
    expect(page.host.querySelectorAll('.bar')).toHaveSize(1);
    expect(bar(page).getAttribute('aria-label')).toMatch(/^Autumn ink, .+, 20 % less, to \.99, 48 SKUs$/);
    expect(page.host.textContent).toContain('1 sale lies outside of what is seen.');
    await page.press('Year');
    expect(bar(page).offsetWidth).toBeLessThan(page.host.querySelector<HTMLElement>('.track')!.clientWidth / 10);
  });

  it('says what belongs there while there are none', async () => {
    told();
    const page = await open();
    expect(page.host.textContent).toContain('There are no sales yet.');
  });

  it('moves a sale by key, its last day alone with Shift, and touches only the days that move', async () => {
    told(sale());
    const page = await open();
    await key(page, { key: 'ArrowRight', shiftKey: true });
    await key(page, { key: 'ArrowLeft' });
    expect(edits()).toEqual([
      [{ kind: 'sale', id: '3', field: 'until', text: isoOf(TODAY + 21) }],
      [
        { kind: 'sale', id: '3', field: 'from', text: isoOf(TODAY + 4) },
        { kind: 'sale', id: '3', field: 'until', text: isoOf(TODAY + 19) },
      ],
    ]);
  });

  it('refuses in words what would end before it begins', async () => {
    told(sale({ until: TODAY + 5 }));
    const page = await open();
    await key(page, { key: 'ArrowLeft', shiftKey: true });
    expect(edits()).toEqual([]);
    expect(page.refusal).toBe('Nothing can end before it begins.');
  });

  it('goes on from what is proposed, and shows it as a change', async () => {
    told(sale({ proposed: { from: TODAY + 5, until: TODAY + 30, fromTime: null, untilTime: null } }));
    const page = await open();
    expect(bar(page).classList).toContain('changed');
    await key(page, { key: 'ArrowRight', shiftKey: true });
    expect(edits()).toEqual([[{ kind: 'sale', id: '3', field: 'until', text: isoOf(TODAY + 31) }]]);
  });

  it('puts the working set into a sale at what that takes off, or takes it out of it', async () => {
    told(sale());
    const page = await open(Page.open(Calendar, api, { more: { question: 'in Ink' } }));
    bar(page).click();
    await page.settled();
    await page.press('Put the ');
    await page.press('Take the working set out');
    const rules = api.inputsOf(calls.putRule).map(({ body }) => body as { question: string; rule: unknown });
    expect(rules.map(({ question }) => question)).toEqual(['in Ink', 'in Ink']);
    expect(rules.map(({ rule }) => rule)).toEqual([
      { steps: [{ do: 'set', field: 'salePrice@3', slots: { value: 'rule' } }], guards: [] },
      { steps: [{ do: 'clear', field: 'salePrice@3', slots: {} }], guards: [] },
    ]);
  });

  it('puts nothing into a sale that takes nothing off: its goods have prices of their own', async () => {
    told(sale({ reduction: null, from: TODAY - 3, untilTime: 600 }));
    const page = await open();
    bar(page).click();
    await page.settled();
    const put = [...page.host.querySelectorAll('button')].find((one) => one.textContent.includes('Put the '))!;
    expect(put.disabled).toBeTrue();
    await page.press('End it with today');
    // It runs to the midnight of its last day then.
    expect(edits()).toEqual([
      [
        { kind: 'sale', id: '3', field: 'until', text: isoOf(TODAY) },
        { kind: 'sale', id: '3', field: 'untilTime', text: '' },
      ],
    ]);
  });

  it('draws a sale at its times, and says them', async () => {
    told(sale(), sale({ id: '4', name: 'Evening', until: TODAY + 5, fromTime: 720, untilTime: 1_080 }));
    const page = await measured(await open());
    const [whole, evening] = [...page.host.querySelectorAll<HTMLElement>('.bar')];
    const day = dayWidth(page);
    expect(Math.abs(evening!.offsetLeft - whole!.offsetLeft - day / 2)).toBeLessThan(2);
    expect(Math.abs(evening!.offsetWidth - day / 4)).toBeLessThan(3);
    expect(evening!.getAttribute('aria-label')).toMatch(/^Evening, from .+ at 12:00 to .+ at 18:00, /);
  });

  it('shows what the proof makes, which is moved there too', async () => {
    told(sale({ isNew: true }));
    const page = await open();
    expect(bar(page).classList).toContain('changed');
    bar(page).click();
    await page.settled();
    expect(page.host.querySelector('.chosen')!.textContent).toContain('It is in the proof');
    expect(page.host.textContent).not.toContain('Open its goods');
    await key(page, { key: 'ArrowRight', shiftKey: true });
    expect(edits()).toEqual([[{ kind: 'sale', id: '3', field: 'until', text: isoOf(TODAY + 21) }]]);
  });

  it('moves an edge with the pointer, whichever sort of bar it is of', async () => {
    const formula = {
      id: '4',
      name: 'Engine prices',
      formula: '10 % more',
      basedOn: 'current price',
      outlets: ['Open reply'],
    };
    told(sale());
    api.answer(calls.getCalendar, {
      sales: [sale()],
      formulas: [{ ...formula, from: TODAY + 2, until: null, proposed: null }],
    });
    const page = await measured(await open());
    const handles = [...page.host.querySelectorAll<HTMLElement>('.edge')];
    expect(handles).toHaveSize(3);
    const day = dayWidth(page);
    for (const [handle, days] of [
      [handles[1]!, -4],
      [handles[2]!, 3],
    ] as const) {
      handle.setPointerCapture = () => undefined;
      const at = (type: string, x: number) =>
        handle.dispatchEvent(
          new PointerEvent(type, { clientX: 500 + x, pointerId: 1, bubbles: true, cancelable: true }),
        );
      at('pointerdown', 0);
      at('pointermove', days * day);
      at('pointerup', days * day);
      await page.settled();
    }
    expect(edits()).toEqual([
      [{ kind: 'sale', id: '3', field: 'until', text: isoOf(TODAY + 16) }],
      [{ kind: 'priceFormula', id: '4', field: 'from', text: isoOf(TODAY + 5) }],
    ]);
  });

  it('copies a sale to next year, where it has days', async () => {
    told(sale());
    api.answer(calls.copySale, { proof: proof(), id: '8' });
    const page = await open();
    bar(page).click();
    await page.settled();
    await page.press('Copy to next year');
    expect(api.inputsOf(calls.copySale)).toEqual([{ body: { sale: '3' } }]);
    TestBed.resetTestingModule();
    told(sale({ from: null, until: null }));
    const always = await open();
    bar(always).click();
    await always.settled();
    expect(always.host.textContent).not.toContain('Copy to next year');
  });

  it('moves what is planned by whole days, at the same time of the clock; of what has landed only when it is taken back', async () => {
    const at = `${isoOf(TODAY + 5)}T09:30`;
    const back = `${isoOf(TODAY + 9)}T18:00`;
    const iso = (text: string) => new Date(zonedMoment(text, shop.timeZone)!).toISOString();
    const plan: Planned = {
      ...{ id: '5', proof: '9', title: 'Winter range', lines: 12, at: iso(at), back: iso(back), whenChanged: 'rest' },
      ...{ state: 'planned', why: null, landing: null, backProof: null, person: 'Ada Teasel' },
    };
    const moved = async (one: Planned, init: KeyboardEventInit) => {
      TestBed.resetTestingModule();
      told();
      api.answer(calls.movePlanned, { planned: one });
      const page = await open(Page.open(Calendar, api, { plans: [one] }));
      await key(page, init);
      return api.inputsOf(calls.movePlanned);
    };
    const ms = (text: string) => Number(zonedMoment(text, shop.timeZone));
    const daysOf = async (one: Planned) => {
      TestBed.resetTestingModule();
      told();
      return (await open(Page.open(Calendar, api, { plans: [one] }))).host.querySelector('.planned + .beside')!
        .textContent;
    };
    expect(await daysOf(plan)).toBe(shownDays(TODAY + 5, TODAY + 9));
    expect(await daysOf({ ...plan, back: iso(`${isoOf(TODAY + 9)}T00:00`) })).toBe(shownDays(TODAY + 5, TODAY + 8));
    expect(await daysOf({ ...plan, back: null })).toBe(shownDays(TODAY + 5, TODAY + 5));
    expect(await moved(plan, { key: 'ArrowRight' })).toEqual([
      {
        params: { id: '5' },
        body: { at: ms(`${isoOf(TODAY + 6)}T09:30`), back: ms(`${isoOf(TODAY + 10)}T18:00`), whenChanged: 'rest' },
      },
    ]);
    expect(await moved({ ...plan, landing: '7' }, { key: 'ArrowRight' })).toEqual([
      { params: { id: '5' }, body: { at: ms(at), back: ms(`${isoOf(TODAY + 10)}T18:00`), whenChanged: 'rest' } },
    ]);
  });

  it('chooses a sale by its name, too, and brings what is told of it into sight', async () => {
    told(sale(), ...Array.from({ length: 30 }, (_, at) => sale({ id: String(at + 10), name: `Sale ${at}` })));
    const page = await open();
    await measured(page);
    page.host.style.cssText = 'display: block; height: 300px; overflow: auto';
    page.host.querySelector<HTMLButtonElement>('button.name')!.click();
    await page.until(() => page.host.querySelector('.chosen') !== null);
    await page.until(
      () =>
        page.host.querySelector('.chosen')!.getBoundingClientRect().top < 300 + page.host.getBoundingClientRect().top,
    );
    expect(bar(page).getAttribute('aria-pressed')).toBe('true');
  });

  it('says the days beside a short bar, before it where there is no room behind', () => {
    const scale = new CalendarScale({ first: 0, behind: 10 }, 1_000);
    const beside = (from: number) => scale.beside(scale.extentOf({ from, until: from })!, 165);
    expect(beside(0)).toEqual({ left: 108 });
    expect(beside(9)).toEqual({ right: 108 });
  });

  it('shows the formulas of outlets on the days on which they hold', async () => {
    const formula = {
      id: '4',
      name: 'Engine prices',
      formula: '10 % more',
      basedOn: 'current price',
      outlets: ['Open reply'],
      from: null,
      until: TODAY + 3,
      proposed: null,
    };
    told(sale());
    api.answer(calls.getCalendar, { formulas: [formula], sales: [sale()] });
    const page = await open();
    const bars = [...page.host.querySelectorAll('.bar.formula')];
    expect(bars.map((one) => one.textContent.trim())).toEqual(['10 % more, of the current price']);
    expect(bars[0]!.getAttribute('aria-label')).toMatch(/^Engine prices, prices on Open reply, until .*, 10 % more$/);
    expect(bars[0]!.classList).toContain('goes-before');
  });
});
