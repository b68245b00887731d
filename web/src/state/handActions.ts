import { type ProofSummary } from '@ivory/contract';
import { createActionGroup, emptyProps, props } from '@ngrx/store';

export const HandActions = createActionGroup({
  source: 'Proof in hand',
  events: {
    /** Cells were taken in; the sheet has their rows already. */
    Edited: props<{ proof: ProofSummary | null }>(),
    /** The proof differs from what the sheet shows: undone, discarded, or a rule was added. */
    Changed: props<{ proof: ProofSummary | null }>(),
    /** It is to be looked at again, for something went well here. */
    'Read again': emptyProps(),
    /** The same after a change elsewhere: refusals shown here stay. */
    Follow: emptyProps(),
    Found: props<{ proof: ProofSummary | null }>(),
    Undo: emptyProps(),
    Redo: emptyProps(),
  },
});
