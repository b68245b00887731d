import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { type OpenedAt, openedAt } from '../testing/openedAt.ts';
import { answer } from '../testing/shop.ts';
import { QuestionInAddress } from './questionInAddress.ts';

describe('the question in the address', () => {
  let opened: OpenedAt;
  const openAt = async (address: string) => {
    opened = await openedAt(address, workingSet, QuestionInAddress);
  };
  const question = () => TestBed.inject(Store).selectSignal(workingSet.selectQuestion)();
  /** The server answers what was asked last, as it prints it. */
  const answered = (printed = question()) =>
    opened.act(WorkingSetActions.answered({ answer: answer({ question: printed }) }));
  async function ask(text: string): Promise<void> {
    TestBed.inject(Store).dispatch(WorkingSetActions.ask({ question: text }));
    await answered();
  }

  it('is asked when the application opens, and stands there as it is printed', async () => {
    await openAt('/prices?q=margin%3C45');
    expect(question()).toBe('margin<45');
    await answered('margin < 45');
    expect(opened.router.url).toBe('/prices?q=margin%20%3C%2045');
  });

  it('follows what is asked, and Back leads to the question before', async () => {
    await openAt('/range');
    await answered('');
    await ask('in Ink');
    await ask('in Ink stock is 0');
    expect(opened.location.path()).toBe('/range?q=in%20Ink%20stock%20is%200');
    await opened.back();
    expect(question()).toBe('in Ink');
    await answered();
    await opened.back();
    expect(question()).toBe('');
    await answered();
    expect(opened.location.path()).toBe('/range');
  });

  it('goes along to another desk, and is left alone where no set is shown', async () => {
    await openAt('/range');
    await answered('');
    await ask('in Ink');
    await opened.router.navigateByUrl('/stock');
    await opened.settled();
    expect(opened.location.path()).toBe('/stock?q=in%20Ink');
    await opened.router.navigateByUrl('/journal');
    await opened.settled();
    expect([opened.location.path(), question()]).toEqual(['/journal', 'in Ink']);
    await opened.back();
    expect([opened.location.path(), question()]).toEqual(['/stock?q=in%20Ink', 'in Ink']);
  });

  it('comes back when rows were opened on another page, also while that page was still loading', async () => {
    await openAt('/rule');
    await answered('');
    await ask('in Ink');
    TestBed.inject(Store).dispatch(WorkingSetActions.ask({ question: 'list is "Stopped"' }));
    const going = opened.router.navigateByUrl('/prices');
    await answered();
    await going;
    await opened.settled();
    expect(opened.location.path()).toBe('/prices?q=list%20is%20%22Stopped%22');
    await opened.back();
    expect([opened.location.path(), question()]).toEqual(['/rule?q=in%20Ink', 'in Ink']);
  });
});
