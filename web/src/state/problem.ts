import { type ProblemDetails } from '@ivory/contract';
import { createFeature, createReducer, on } from '@ngrx/store';
import { HandActions } from './handActions.ts';
import { ProblemActions } from './problemActions.ts';

const none: { readonly problem: ProblemDetails | null } = { problem: null };

/** What was refused last, as the strip under the frame shows it: until it is put away, or something goes well here. */
export const problem = createFeature({
  name: 'problem',
  reducer: createReducer(
    none,
    on(ProblemActions.show, (_, { problem }) => ({ problem })),
    on(ProblemActions.putAway, HandActions.edited, HandActions.changed, HandActions.look, () => none),
  ),
});
