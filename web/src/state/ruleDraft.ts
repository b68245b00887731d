import { type RuleDraft } from '@ivory/core';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

export const RuleActions = createActionGroup({
  source: 'Rule',
  events: {
    Typed: props<{ draft: RuleDraft; question: string }>(),
    /** The kept rule being edited: opened, stored just now, or null after it was deleted. */
    Held: props<{ kept: string | null }>(),
    /** It was put into the proof: the next one starts afresh. */
    Done: emptyProps(),
  },
});

interface RuleDraftState {
  /** Null until something is typed. */
  readonly draft: RuleDraft | null;
  /** The rows that it was typed for. */
  readonly question: string;
  /** The rule that it is kept as. */
  readonly kept: string | null;
}
const NONE: RuleDraftState = { draft: null, question: '', kept: null };

/** The rule that was begun: it stays while somebody looks at the rows behind its numbers. */
export const ruleDraft = createFeature({
  name: 'ruleDraft',
  reducer: createReducer(
    NONE,
    on(RuleActions.typed, (state, { draft, question }) => ({ ...state, draft, question })),
    on(RuleActions.held, (state, { kept }) => ({ ...state, kept })),
    on(RuleActions.done, () => NONE),
  ),
});
