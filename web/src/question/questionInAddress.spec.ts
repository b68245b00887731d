import { Location } from '@angular/common';
import { provideLocationMocks } from '@angular/common/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { Actions } from '@ngrx/effects';
import { type Action, provideState, provideStore, Store } from '@ngrx/store';
import { Subject } from 'rxjs';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { answer } from '../testing/shop.ts';
import { QuestionInAddress } from './questionInAddress.ts';

describe('the question in the address', () => {
  let router: Router;
  let location: Location;
  let effects: Subject<Action>;
  const settled = () => new Promise((go) => setTimeout(go, 10));

  /** The application opened at an address. */
  async function openAt(address: string): Promise<void> {
    effects = new Subject();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([{ path: '**', children: [] }]),
        provideLocationMocks(),
        provideStore(),
        provideState(workingSet),
        { provide: Actions, useValue: effects },
      ],
    });
    location = TestBed.inject(Location);
    location.go(address);
    TestBed.inject(QuestionInAddress);
    router = TestBed.inject(Router);
    router.initialNavigation();
    await settled();
  }
  const question = () => TestBed.inject(Store).selectSignal(workingSet.selectQuestion)();
  /** The server answers what was asked last, as it prints it. */
  async function answered(printed = question()): Promise<void> {
    const action = WorkingSetActions.answered({ answer: answer({ question: printed }) });
    TestBed.inject(Store).dispatch(action);
    effects.next(action);
    await settled();
  }
  async function ask(text: string): Promise<void> {
    TestBed.inject(Store).dispatch(WorkingSetActions.ask({ question: text }));
    await answered();
  }
  async function back(): Promise<void> {
    location.back();
    await settled();
  }

  it('is asked when the application opens, and stands there as it is printed', async () => {
    await openAt('/prices?q=margin%3C45');
    expect(question()).toBe('margin<45');
    await answered('margin < 45');
    expect(router.url).toBe('/prices?q=margin%20%3C%2045');
  });

  it('follows what is asked, and Back leads to the question before', async () => {
    await openAt('/range');
    await answered('');
    await ask('in Ink');
    await ask('in Ink stock is 0');
    expect(location.path()).toBe('/range?q=in%20Ink%20stock%20is%200');
    await back();
    expect(question()).toBe('in Ink');
    await answered();
    await back();
    expect(question()).toBe('');
    await answered();
    expect(location.path()).toBe('/range');
  });

  it('goes along to another desk, and is left alone where no set is shown', async () => {
    await openAt('/range');
    await answered('');
    await ask('in Ink');
    await router.navigateByUrl('/stock');
    await settled();
    expect(location.path()).toBe('/stock?q=in%20Ink');
    await router.navigateByUrl('/journal');
    await settled();
    expect([location.path(), question()]).toEqual(['/journal', 'in Ink']);
    await back();
    expect([location.path(), question()]).toEqual(['/stock?q=in%20Ink', 'in Ink']);
  });

  it('comes back when rows were opened on another page, also while that page was still loading', async () => {
    await openAt('/rule');
    await answered('');
    await ask('in Ink');
    TestBed.inject(Store).dispatch(WorkingSetActions.ask({ question: 'list is "Stopped"' }));
    const going = router.navigateByUrl('/prices');
    await answered();
    await going;
    await settled();
    expect(location.path()).toBe('/prices?q=list%20is%20%22Stopped%22');
    await back();
    expect([location.path(), question()]).toEqual(['/rule?q=in%20Ink', 'in Ink']);
  });
});
