import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { mergeMap } from 'rxjs';
import { HandActions } from './handActions.ts';
import { MomentActions } from '../api/moment.ts';
import { WorkingSetActions } from './workingSet.ts';

/** Whatever is shown is read again for the moment. */
export const readForMoment = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(MomentActions.lookAt, MomentActions.lookAs),
      mergeMap(() => [WorkingSetActions.askAgain(), HandActions.follow()]),
    ),
  { functional: true },
);
