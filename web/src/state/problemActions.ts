import { type ProblemDetails } from '@ivory/contract';
import { createActionGroup, emptyProps, props } from '@ngrx/store';

export const ProblemActions = createActionGroup({
  source: 'Problem shown to people',
  events: {
    Show: props<{ problem: ProblemDetails }>(),
    'Put away': emptyProps(),
  },
});
