import { type EndingDirection, type EndingName } from '@ivory/core';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

/** A rule as typed. */
export interface RuleForm {
  readonly verb: 'raise by' | 'lower by' | 'set' | 'nothing';
  readonly amount: string;
  readonly ending: EndingName | null;
  readonly direction: EndingDirection;
  readonly floor: string;
  readonly largest: string;
}

export const RuleActions = createActionGroup({
  source: 'Rule',
  events: {
    Typed: props<{ form: RuleForm; question: string }>(),
    /** It was put into the proof: the next one starts afresh. */
    Done: emptyProps(),
  },
});

interface RuleDraftState {
  /** Null until something is typed. */
  readonly form: RuleForm | null;
  /** The rows that it was typed for. */
  readonly question: string;
}
const NONE: RuleDraftState = { form: null, question: '' };

/** The rule that was begun: it stays while somebody looks at the rows behind its numbers. */
export const ruleDraft = createFeature({
  name: 'ruleDraft',
  reducer: createReducer(
    NONE,
    on(RuleActions.typed, (_, { form, question }) => ({ form, question })),
    on(RuleActions.done, () => NONE),
  ),
});
