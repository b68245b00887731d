import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { QuestionFocus } from './questionFocus.ts';

describe('the way to the question line', () => {
  it('leads to the one on the screen, or to the workbench that will have one', () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), provideRouter([])] });
    const focus = TestBed.inject(QuestionFocus);
    const go = spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    let focused = 0;
    focus.ask();
    expect(go).toHaveBeenCalledOnceWith('/range');
    const gone = focus.attach(() => focused++);
    expect(focused).withContext('asked for before it was there').toBe(1);
    focus.ask();
    expect(focused).toBe(2);
    gone();
    focus.ask();
    expect([focused, go.calls.count()]).toEqual([2, 2]);
  });
});
