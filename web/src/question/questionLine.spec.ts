import { provideZonelessChangeDetection } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import { calls } from '@ivory/contract';
import { Api } from '../api/api.ts';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { session, SessionActions } from '../state/session.ts';
import { type NearQuestions, workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { answer, shop } from '../testing/shop.ts';
import { QuestionLine } from './questionLine.ts';

describe('the question line', () => {
  let fixture: ComponentFixture<QuestionLine>;
  let store: MockStore;
  let asked: unknown[];
  let api: FakeApi;

  function open(more: Parameters<typeof answer>[0] = {}, near: Partial<NearQuestions> = {}) {
    const answered = workingSet.reducer(undefined, WorkingSetActions.answered({ answer: answer(more) }));
    const state = {
      session: session.reducer(undefined, SessionActions.opened({ shop })),
      workingSet: workingSet.reducer(answered, WorkingSetActions.guessed({ near: { without: [], read: [], ...near } })),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideMockStore({ initialState: state }),
        { provide: Api, useValue: (api = new FakeApi()) },
      ],
    });
    store = TestBed.inject<MockStore>(MockStore);
    asked = [];
    spyOn(store, 'dispatch').and.callFake((action: unknown) => asked.push(action) as never);
    fixture = TestBed.createComponent(QuestionLine);
    fixture.detectChanges();
  }

  const host = () => fixture.nativeElement as HTMLElement;
  const input = () => host().querySelector('input')!;
  const type = (text: string) => {
    input().value = text;
    input().setSelectionRange(text.length, text.length);
    input().dispatchEvent(new Event('input'));
    fixture.detectChanges();
  };
  const press = (key: string) => {
    input().dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }));
    fixture.detectChanges();
  };
  const offered = () => [...host().querySelectorAll('[role=option]')].map((one) => one.textContent.trim());

  it('makes a condition of a pasted column of codes, and says which were not found', () => {
    open({ conditions: ['in Ink'], question: 'in Ink list is "2 pasted codes"' });
    api.answer(calls.openList, { question: 'list is "2 pasted codes"', skus: 1, notFound: ['PE-2'] });
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'PE-1\nPE-2\n');
    input().dispatchEvent(new ClipboardEvent('paste', { clipboardData, cancelable: true }));
    fixture.detectChanges();
    expect(api.inputsOf(calls.openList)).toEqual([
      { body: { title: '2 pasted codes', of: { kind: 'codes', codes: ['PE-1', 'PE-2'] } } },
    ]);
    expect(asked).toContain(WorkingSetActions.ask({ question: 'in Ink list is "2 pasted codes"' }));
    expect(host().querySelector('ivory-codes-not-found')!.textContent).toContain('1 of 2 codes not found: PE-2.');
  });

  it('counts the whole set, and names what its stock costs in pounds', () => {
    open({ counts: { products: 312, skus: 1048, stockAtCost: '1248099' } });
    expect(host().querySelector('output')!.textContent).toMatch(/312 products · 1,048 SKUs\s+·\s+£12,480/);
  });

  it('opens what the stock at cost is made of, once', () => {
    open({ conditions: ['in Ink', 'stock > 0'] });
    host().querySelector<HTMLButtonElement>('output button')!.click();
    expect(asked).toEqual([WorkingSetActions.ask({ question: 'in Ink stock > 0 cost is filled' })]);
  });

  it('starts from what was asked last, also while that is on its way', () => {
    open({ conditions: ['in Ink', 'stock > 0'], question: 'in Ink stock > 0' });
    const arrive = (action: Parameters<typeof workingSet.reducer>[1]) => {
      const state = store.selectSignal(workingSet.selectWorkingSetState)();
      store.setState({
        session: session.reducer(undefined, SessionActions.opened({ shop })),
        workingSet: workingSet.reducer(state, action),
      });
      fixture.detectChanges();
    };
    host().querySelector<HTMLButtonElement>('[aria-label="Take out in Ink"]')!.click();
    arrive(WorkingSetActions.ask({ question: 'stock > 0' }));
    type('cost > 1');
    press('Enter');
    expect(asked.at(-1)).toEqual(WorkingSetActions.ask({ question: 'stock > 0 cost > 1' }));
    arrive(WorkingSetActions.ask({ question: 'stock > 0 cost > 1' }));
    press('Enter');
    expect(asked.at(-1))
      .withContext('pressed twice')
      .toEqual(WorkingSetActions.ask({ question: 'stock > 0 cost > 1' }));
  });

  it('adds to a question that came from elsewhere and is on its way', () => {
    open({ conditions: ['in Ink'], question: 'in Ink' });
    const state = store.selectSignal(workingSet.selectWorkingSetState)();
    const workingSetState = workingSet.reducer(state, WorkingSetActions.ask({ question: 'in Pens' }));
    store.setState({
      session: session.reducer(undefined, SessionActions.opened({ shop })),
      workingSet: workingSetState,
    });
    type('stock > 0');
    press('Enter');
    expect(asked).toEqual([WorkingSetActions.ask({ question: 'in Pens stock > 0' })]);
  });

  it('offers a field, then its comparisons, then its values, by keyboard', () => {
    open();
    type('bra');
    expect(offered()).toContain('brand');
    press('ArrowDown');
    press('Enter');
    expect(input().value).toBe('brand ');
    expect(offered()).toContain('is');
    type('brand is ');
    expect(offered()).toEqual(['"Moss Lane"', '"Harrow & Pine"']);
    press('ArrowUp');
    expect(input().getAttribute('aria-activedescendant')).toBe('offered-1');
    press('Enter');
    expect(input().value).toBe('brand is "Harrow & Pine" ');
  });

  it('offers titles of landings once they are read', () => {
    open();
    api.answer(calls.listLandingTexts, { texts: ['Spring prices', 'Weights'] });
    type('landed in ');
    expect(offered().slice(0, 3)).toEqual(['"Spring prices"', 'Weights', 'is']);
    type('landed in we');
    expect(offered()).toEqual(['Weights']);
    expect(api.inputsOf(calls.listLandingTexts)).toEqual([{ query: { field: 'landedIn' } }]);
  });

  it('leaves the focus to the sheet when there is nothing below it to choose', () => {
    open();
    let wanted = 0;
    TestBed.inject(SheetFocus).wanted.subscribe(() => wanted++);
    type('bra');
    press('ArrowDown');
    expect(wanted).toBe(0);
    press('Escape');
    press('ArrowDown');
    expect(wanted).toBe(1);
  });

  it('asks what the tokens and the draft say together', () => {
    open({ question: 'in Ink', conditions: ['in Ink'] });
    type('margin < 45');
    press('Escape');
    press('Enter');
    expect(asked).toEqual([WorkingSetActions.ask({ question: 'in Ink margin < 45' })]);
  });

  it('opens a token for changing, and takes one out', () => {
    open({ conditions: ['in Ink', 'margin < 45'] });
    const [first, out] = host().querySelectorAll<HTMLButtonElement>('.token button');
    out!.click();
    first!.click();
    fixture.detectChanges();
    expect(asked).toEqual([
      WorkingSetActions.ask({ question: 'margin < 45' }),
      WorkingSetActions.ask({ question: 'margin < 45' }),
    ]);
    expect(input().value).toBe('in Ink');
    type('');
    press('Backspace');
    expect(input().value).toBe('margin < 45');
  });

  it('says which condition is to blame when nothing is found', () => {
    const none = { products: 0, skus: 0, stockAtCost: '0' };
    const without = [
      { condition: 'in Ink', question: 'margin > 99', skus: 0 },
      { condition: 'margin > 99', question: 'in Ink', skus: 96 },
    ];
    open({ counts: none, rows: [] }, { without });
    const blame = [...host().querySelectorAll<HTMLButtonElement>('.problem button')];
    expect(blame.map((button) => button.textContent.trim())).toEqual(['96 without margin > 99']);
    blame[0]!.click();
    expect(asked).toEqual([WorkingSetActions.ask({ question: 'in Ink' })]);
  });

  it('offers what words may have been meant to ask, before what to leave out', () => {
    const none = { products: 0, skus: 0, stockAtCost: '0' };
    open(
      { counts: none, rows: [] },
      {
        without: [{ condition: '"stock"', question: '0', skus: 1200 }],
        read: [{ condition: 'stock is 0', question: 'stock is 0', skus: 181 }],
      },
    );
    const offers = [...host().querySelectorAll<HTMLButtonElement>('.problem button')];
    expect(offers.map((button) => button.textContent.trim())).toEqual(['181 with stock is 0', '1,200 without "stock"']);
    offers[0]!.click();
    expect(asked).toEqual([WorkingSetActions.ask({ question: 'stock is 0' })]);
  });
});
