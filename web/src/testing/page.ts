import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { type Action } from '@ngrx/store';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import { type Answer, type Planned, type ProofSummary, type SpineCounts, type Work } from '@ivory/contract';
import { type Moment } from '@ivory/core';
import { Api } from '../api/api.ts';
import { atWork, WorkActions } from '../state/atWork.ts';
import { hand } from '../state/hand.ts';
import { HandActions } from '../state/handActions.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { moment, MomentActions } from '../api/moment.ts';
import { planned, PlannedActions } from '../state/planned.ts';
import { problem } from '../state/problem.ts';
import { ruleDraft } from '../state/ruleDraft.ts';
import { session, SessionActions } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { type FakeApi } from './fakeApi.ts';
import { answer, shop } from './shop.ts';

/** A part of the web in a spec: what it shows, and what it asks of the store. */
export class Page<Part> {
  readonly dispatched: Action[] = [];

  private constructor(
    readonly fixture: ComponentFixture<Part>,
    private readonly state: {
      atWork: ReturnType<typeof atWork.reducer>;
      ruleDraft: ReturnType<typeof ruleDraft.reducer>;
      hand: ReturnType<typeof hand.reducer>;
    },
  ) {}

  static open<Part>(
    part: Type<Part>,
    api: FakeApi,
    { proof = null, spine, more = {}, inputs = {}, at = null, plans = [] }: Options = {},
  ): Page<Part> {
    const asked = workingSet.reducer(undefined, WorkingSetActions.answered({ answer: answer(more) }));
    const state = {
      session: session.reducer(undefined, SessionActions.opened({ shop })),
      workingSet: spine ? workingSet.reducer(asked, WorkingSetActions.counted({ spine })) : asked,
      hand: hand.reducer(undefined, HandActions.edited({ proof })),
      moment: moment.reducer(undefined, MomentActions.lookAt({ at })),
      planned: planned.reducer(undefined, PlannedActions.found({ planned: plans })),
      problem: problem.reducer(undefined, { type: 'nothing yet' }),
      atWork: atWork.reducer(undefined, { type: 'nothing yet' }),
      ruleDraft: ruleDraft.reducer(undefined, { type: 'nothing yet' }),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        // Wherever a part leads, it may go.
        provideRouter([{ path: '**', children: [] }]),
        provideMockStore({ initialState: state }),
        { provide: Api, useValue: api },
      ],
    });
    const page = new Page(TestBed.createComponent(part), state);
    spyOn(TestBed.inject(MockStore), 'dispatch').and.callFake(((action: Action) => page.take(action)) as never);
    for (const [name, value] of Object.entries(inputs)) page.fixture.componentRef.setInput(name, value);
    return page;
  }

  get host(): HTMLElement {
    return this.fixture.nativeElement as HTMLElement;
  }

  /** The title of what the part first asked the strip to show as refused. */
  get refusal(): string {
    return (this.dispatched[0] as ReturnType<typeof ProblemActions.show>).problem.title;
  }

  /** Notes what the part dispatches; a rule that is typed is followed. */
  private take(action: Action): void {
    this.dispatched.push(action);
    const draft = ruleDraft.reducer(this.state.ruleDraft, action);
    if (draft === this.state.ruleDraft) return;
    this.state.ruleDraft = draft;
    TestBed.inject(MockStore).setState({ ...this.state });
  }

  /** The proof in hand became another, as by another window. */
  async changeHand(): Promise<this> {
    const { proof } = this.state.hand;
    this.state.hand = hand.reducer(this.state.hand, HandActions.changed({ proof }));
    TestBed.inject(MockStore).setState({ ...this.state });
    return this.settled();
  }

  /** The server tells of work. */
  async tell(work: Work): Promise<this> {
    this.state.atWork = atWork.reducer(this.state.atWork, WorkActions.told({ work }));
    TestBed.inject(MockStore).setState({ ...this.state });
    return this.settled();
  }

  /** Waits until everything that was asked for has been shown. */
  async settled(): Promise<this> {
    await this.fixture.whenStable();
    this.fixture.detectChanges();
    return this;
  }

  /** Waits until something has come that the page asks for in its own time. */
  async until(come: () => boolean): Promise<this> {
    const last = performance.now() + 5_000;
    while (!come() && performance.now() < last) {
      await new Promise((go) => setTimeout(go, 20));
      await this.settled();
    }
    return this.settled();
  }

  texts(selector: string): string[] {
    return [...this.host.querySelectorAll(selector)].map((one) => one.textContent.replace(/\s+/g, ' ').trim());
  }

  /** Presses the button, link or row whose text begins so. */
  async press(text: string): Promise<this> {
    const all = [...this.host.querySelectorAll<HTMLElement>('button, a, [role=treeitem]')];
    const found = all.find((one) => one.textContent.replace(/\s+/g, ' ').trim().startsWith(text));
    if (!found)
      throw new Error(
        `nothing to press says “${text}”; there are ${all.map((one) => one.textContent.trim()).join(', ')}`,
      );
    found.click();
    return this.settled();
  }
}

interface Options {
  readonly proof?: ProofSummary | null;
  readonly spine?: SpineCounts;
  /** What is planned to land. */
  readonly plans?: readonly Planned[];
  /** The moment that is looked at. */
  readonly at?: Moment | null;
  readonly more?: Partial<Answer>;
  readonly inputs?: Readonly<Record<string, unknown>>;
}
