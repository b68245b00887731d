import { type ProblemDetails } from '@ivory/contract';
import { createFeature, createReducer, on } from '@ngrx/store';
import { HandActions } from './handActions.ts';
import { ProblemActions } from './problemActions.ts';

const none: { readonly problem: ProblemDetails | null } = { problem: null };

/** The last refusal, shown under the frame until it is closed or a later call succeeds. */
export const problem = createFeature({
  name: 'problem',
  reducer: createReducer(
    none,
    on(ProblemActions.show, (_, { problem }) => ({ problem })),
    on(ProblemActions.putAway, HandActions.edited, HandActions.changed, HandActions.readAgain, () => none),
  ),
});
