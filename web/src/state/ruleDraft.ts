import { type RuleDraft } from '@ivory/core';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

export const RuleActions = createActionGroup({
  source: 'Rule',
  events: {
    Typed: props<{ draft: RuleDraft; question: string }>(),
    /** It was put into the proof: the next one starts afresh. */
    Done: emptyProps(),
  },
});

interface RuleDraftState {
  /** Null until something is typed. */
  readonly draft: RuleDraft | null;
  /** The rows that it was typed for. */
  readonly question: string;
}
const NONE: RuleDraftState = { draft: null, question: '' };

/** The rule that was begun: it stays while somebody looks at the rows behind its numbers. */
export const ruleDraft = createFeature({
  name: 'ruleDraft',
  reducer: createReducer(
    NONE,
    on(RuleActions.typed, (_, { draft, question }) => ({ draft, question })),
    on(RuleActions.done, () => NONE),
  ),
});
