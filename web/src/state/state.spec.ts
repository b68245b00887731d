import { type Answer, calls, type ProblemDetails } from '@ivory/contract';
import { type Actions } from '@ngrx/effects';
import { type Action, type Store } from '@ngrx/store';
import { firstValueFrom, from, of, Subject, toArray } from 'rxjs';
import { type Api, TAB } from '../api/api.ts';
import { type Heard } from '../api/events.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { answer, proof, shop, work } from '../testing/shop.ts';
import { atWork, findWork, followAfterLanding, hearEvents, isOver, WorkActions } from './atWork.ts';
import { hand } from './hand.ts';
import { HandActions } from './handActions.ts';
import { problem as shownProblem } from './problem.ts';
import { ProblemActions } from './problemActions.ts';
import { session, SessionActions } from './session.ts';
import { askForEverything, askNear, workingSet, WorkingSetActions } from './workingSet.ts';

const INIT = { type: '@ngrx/store/init' };
const problem = { type: 'about:blank', title: 'No', status: 422 };

describe('the working set', () => {
  const start = workingSet.reducer(undefined, INIT);
  const asked = (question: string, state = start) => workingSet.reducer(state, WorkingSetActions.ask({ question }));

  it('holds what was asked while it is on its way, and the plainest form once it is answered', () => {
    const asking = asked('margin<45');
    expect([asking.question, asking.asking]).toEqual(['margin<45', true]);
    const answered = workingSet.reducer(
      asking,
      WorkingSetActions.answered({ answer: answer({ question: 'margin < 45' }) }),
    );
    expect([answered.question, answered.asking]).toEqual(['margin < 45', false]);
  });

  it('keeps the last answer in sight when a question does not read', () => {
    const before = workingSet.reducer(
      asked('in Ink'),
      WorkingSetActions.answered({ answer: answer({ question: 'in Ink' }) }),
    );
    const after = workingSet.reducer(asked('in Inc', before), WorkingSetActions.notRead({ problem }));
    expect(after.answer).toBe(before.answer);
    expect([after.question, after.problem]).toEqual(['in Ink', problem]);
    expect(asked('in Ink', after).problem).toBeNull();
  });
});

describe('a first question that does not read', () => {
  const said = (answered: Answer | null, problem: ProblemDetails) => {
    const actions = of(WorkingSetActions.notRead({ problem })) as unknown as Actions;
    const store = { select: () => of(answered) } as unknown as Store;
    return firstValueFrom(askForEverything(actions, store).pipe(toArray()));
  };
  const unread = { ...problem, places: [{ code: 'list-gone', at: 0 }] } as unknown as ProblemDetails;

  it('leaves the whole range, and is said', async () => {
    const everything = [
      WorkingSetActions.sort({ sort: { field: 'name', down: false } }),
      WorkingSetActions.ask({ question: '' }),
    ];
    expect(await said(null, unread)).toEqual([ProblemActions.show({ problem: unread }), ...everything]);
    // So does an order by a field that is gone.
    expect(await said(null, problem)).toEqual([ProblemActions.show({ problem }), ...everything]);
  });

  it('is nothing of the kind behind an answer, or when the server is away', async () => {
    expect(await said(answer(), unread)).toEqual([]);
    expect(await said(null, { ...problem, status: 503 })).toEqual([]);
  });
});

describe('a question that finds nothing', () => {
  const none = { products: 0, skus: 0, stockAtCost: '0' };
  const near = { without: [{ condition: 'margin > 99', question: 'in Ink', skus: 96 }], read: [] };
  const api = () => new FakeApi().answer(calls.nearQuestions, near);
  /** What the effect says to an answer. */
  const said = (more: Partial<Answer>, server: FakeApi) => {
    const actions = of(WorkingSetActions.answered({ answer: answer(more) })) as unknown as Actions;
    return firstValueFrom(askNear(actions, server as unknown as Api).pipe(toArray()));
  };

  it('is asked once more for what was meant, and says it until the next answer', async () => {
    const server = api();
    const question = 'in Ink margin > 99';
    const [guessed] = await said({ question, conditions: ['in Ink', 'margin > 99'], counts: none }, server);
    expect(server.inputsOf(calls.nearQuestions)).toEqual([{ body: { question } }]);
    const state = workingSet.reducer(undefined, guessed!);
    expect(state.near).toEqual(near);
    expect(workingSet.reducer(state, WorkingSetActions.answered({ answer: answer() })).near.without).toEqual([]);
  });

  it('is not asked again when it asks for everything, or found something', async () => {
    const server = api();
    expect(await said({ question: '', conditions: [], counts: none }, server)).toEqual([]);
    expect(await said({ question: 'in Ink margin < 99' }, server)).toEqual([]);
    expect(server.sent).toEqual([]);
  });

  it('stays what it is when the server cannot say', async () => {
    const server = new FakeApi().refuse(calls.nearQuestions, 'Down');
    expect(
      await said({ question: 'in Ink margin > 99', conditions: ['in Ink', 'margin > 99'], counts: none }, server),
    ).toEqual([]);
  });
});

describe('the proof in hand', () => {
  const start = hand.reducer(undefined, INIT);

  it('makes the sheet read again when it is another than the sheet shows, and not when the sheet itself edited', () => {
    const edited = hand.reducer(start, HandActions.edited({ proof: proof() }));
    expect([edited.proof!.id, edited.version]).toEqual(['9', start.version]);
    expect(hand.reducer(edited, HandActions.changed({ proof: null })).version).toBe(start.version + 1);
  });

  it('makes the sheet read again after something was done elsewhere', () => {
    const followed = hand.reducer(hand.reducer(start, HandActions.follow()), HandActions.found({ proof: proof() }));
    expect(followed).toEqual({ proof: proof(), version: start.version + 1 });
  });
});

describe('what was refused', () => {
  const refused = shownProblem.reducer(undefined, ProblemActions.show({ problem }));
  const after = (...actions: Action[]) => actions.reduce(shownProblem.reducer, refused).problem;

  it('stays until it is put away or something goes well here', () => {
    expect(refused.problem).toBe(problem);
    expect(after(ProblemActions.putAway())).toBeNull();
    expect(after(HandActions.edited({ proof: proof() }))).toBeNull();
    expect(after(HandActions.readAgain())).toBeNull();
  });

  it('stays whatever another tab or person does', () => {
    expect(after(HandActions.follow(), HandActions.found({ proof: proof() }))).toBe(problem);
  });
});

describe('what is at work', () => {
  const state = (...works: ReturnType<typeof work>[]) => {
    const slice = works.reduce(
      (now, one) => atWork.reducer(now, WorkActions.told({ work: one })),
      atWork.reducer(undefined, INIT),
    );
    return atWork.selectShownWork({ atWork: slice });
  };

  it('is shown while it runs, and afterwards only when it did not go well', () => {
    expect(state(work())).toHaveSize(1);
    expect(state(work(), work({ state: 'done' }))).toEqual([]);
    expect(state(work(), work({ state: 'failed', note: 'No' }))[0]!.note).toBe('No');
  });

  it('that was over before this page was opened is not shown', () => {
    expect(state(work({ state: 'failed' }))).toEqual([]);
  });

  it('is over when done, failed or stopped', () => {
    expect(
      ['waiting', 'running', 'done', 'failed', 'stopped'].map((one) => isOver(work({ state: one as 'done' }))),
    ).toEqual([false, false, true, true, true]);
  });

  it('can be put away', () => {
    let slice = atWork.reducer(undefined, INIT);
    slice = atWork.reducer(slice, WorkActions.begun({ work: work({ state: 'failed' }) }));
    expect(atWork.selectShownWork({ atWork: slice })).toHaveSize(1);
    slice = atWork.reducer(slice, WorkActions.putAway({ id: '5' }));
    expect(atWork.selectShownWork({ atWork: slice })).toEqual([]);
  });
});

describe('what is heard of the server', () => {
  const landed = { kind: 'landed', landing: '7' } as const;
  const said = (...events: Heard[]) => firstValueFrom(hearEvents(from(events)).pipe(toArray()));

  it('makes this tab read again what landed, here or elsewhere', async () => {
    const again = [WorkingSetActions.askAgain(), HandActions.follow(), SessionActions.namesChanged()];
    expect(await said(landed)).toEqual(again);
    expect(await said({ kind: 'missed' })).toEqual([SessionActions.found(), ...again, WorkActions.lookAgain()]);
  });

  it('makes it follow what other tabs do to the proof in hand, not what it did itself', () => {
    const events = new Subject<Heard>();
    const told: unknown[] = [];
    const hearing = hearEvents(events).subscribe((action) => told.push(action));
    jasmine.clock().install();
    try {
      events.next({ kind: 'hand', by: TAB });
      jasmine.clock().tick(1_000);
      expect(told).toEqual([]);
      for (const by of ['another', 'another', null]) events.next({ kind: 'hand', by });
      jasmine.clock().tick(1_000);
      expect(told).toEqual([HandActions.follow()]);
    } finally {
      jasmine.clock().uninstall();
      hearing.unsubscribe();
    }
  });
});

describe('a large landing', () => {
  it('that did not land leaves the proof in hand open: it is looked at again', async () => {
    const after = (one: Parameters<typeof work>[0]) => {
      const actions = of(WorkActions.told({ work: work(one) })) as unknown as Actions;
      return firstValueFrom(followAfterLanding(actions).pipe(toArray()));
    };
    for (const state of ['failed', 'stopped'] as const)
      expect(await after({ kind: 'land', state })).toEqual([HandActions.follow()]);
    expect(await after({ kind: 'land', state: 'running' })).toEqual([]);
    expect(await after({ kind: 'import', state: 'failed' })).toEqual([]);
  });
});

describe('work whose end was not heard', () => {
  it('is found to have ended; what ended before is left alone', async () => {
    const known = { '5': work({ state: 'running' }), '6': work({ id: '6', state: 'done' }) };
    const now = [work({ state: 'done' }), work({ id: '6', state: 'done' }), work({ id: '7', state: 'failed' })];
    const server = new FakeApi().answer(calls.listWork, { work: now });
    const store = { select: () => of(known) };
    const actions = of(WorkActions.lookAgain()) as unknown as Actions;
    const said = findWork(actions, server as unknown as Api, store as unknown as Store).pipe(toArray());
    expect(await firstValueFrom(said)).toEqual([WorkActions.told({ work: work({ state: 'done' }) })]);
  });
});

describe('work whose end is told before it is said to have begun', () => {
  it('has ended', () => {
    const told = atWork.reducer(undefined, WorkActions.told({ work: work({ state: 'done', result: '9' }) }));
    const slice = atWork.reducer(told, WorkActions.begun({ work: work({ state: 'waiting' }) }));
    expect(slice.entities['5']!.state).toBe('done');
    expect(atWork.selectShownWork({ atWork: slice })).toEqual([]);
  });
});

describe('the session', () => {
  it('knows whether the server answers', () => {
    const lost = session.reducer(undefined, SessionActions.lost());
    expect([lost.lost, session.reducer(lost, SessionActions.found()).lost]).toEqual([true, false]);
  });

  it('makes the names behind references out of what the shop says', () => {
    const slice = session.reducer(undefined, SessionActions.opened({ shop }));
    const { names, register } = session.selectAsking({ session: slice });
    expect(names.lists.get('brand')!.find('moss lane')).toBe('1');
    expect(register.find('own:3')!.name).toBe('nib width');
    expect(names.categories.path('2')).toBe('Ink > Bottled');
  });
});
