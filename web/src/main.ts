import { provideHttpClient, withFetch } from '@angular/common/http';
import { inject, provideEnvironmentInitializer, provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, TitleStrategy, withComponentInputBinding } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { en_GB, provideNzI18n } from 'ng-zorro-antd/i18n';
import { Frame } from './frame/frame.ts';
import { MomentInAddress } from './frame/momentInAddress.ts';
import { PageTitle } from './frame/pageTitle.ts';
import { routes } from './frame/routes.ts';
import { QuestionInAddress } from './question/questionInAddress.ts';
import { loadGrid } from './sheet/grid/grid.ts';
import * as atWork from './state/atWork.ts';
import * as hand from './state/hand.ts';
import * as planned from './state/planned.ts';
import { problem } from './state/problem.ts';
import * as ruleDraft from './state/ruleDraft.ts';
import { moment } from './api/moment.ts';
import { readForMoment } from './state/momentEffects.ts';
import * as session from './state/session.ts';
import * as workingSet from './state/workingSet.ts';

// Most sessions begin on the workbench: its code is fetched in parallel with the frame.
if (/^\/(range|prices|stock)?$/.test(location.pathname)) {
  void loadGrid();
  void import('./workbench/workbench.ts');
}

await bootstrapApplication(Frame, {
  providers: [
    provideZonelessChangeDetection(),
    provideHttpClient(withFetch()),
    provideNzI18n(en_GB),
    provideRouter(routes, withComponentInputBinding()),
    { provide: TitleStrategy, useExisting: PageTitle },
    provideStore(),
    provideState(session.session),
    provideState(moment),
    provideState(workingSet.workingSet),
    provideState(hand.hand),
    provideState(planned.planned),
    provideState(problem),
    provideState(atWork.atWork),
    provideState(ruleDraft.ruleDraft),
    // Before the effects, so that what they ask first is what the address asks.
    provideEnvironmentInitializer(() => void inject(MomentInAddress)),
    provideEnvironmentInitializer(() => void inject(QuestionInAddress)),
    provideEffects(
      { openSession: session.openSession, readForMoment },
      {
        askQuestion: workingSet.askQuestion,
        askForEverything: workingSet.askForEverything,
        askNear: workingSet.askNear,
        askForColumns: workingSet.askForColumns,
        keepRowsOf: workingSet.keepRowsOf,
        keepSort: workingSet.keepSort,
        countSpine: workingSet.countSpine,
      },
      { lookAtHand: hand.lookAtHand, undo: hand.undo, redo: hand.redo, findPlanned: planned.findPlanned },
      {
        findWork: atWork.findWork,
        hearEvents: atWork.hearEvents,
        stopWork: atWork.stopWork,
        askAfterDelivery: atWork.askAfterDelivery,
        followAfterLanding: atWork.followAfterLanding,
      },
    ),
  ],
});
