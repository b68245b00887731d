import { type ProofSummary } from '@ivory/contract';
import { createActionGroup, emptyProps, props } from '@ngrx/store';

export const HandActions = createActionGroup({
  source: 'Proof in hand',
  events: {
    /** Cells were taken in; the sheet has their rows already. */
    Edited: props<{ proof: ProofSummary | null }>(),
    /** The proof is another than the sheet shows: undone, discarded, a rule put in. */
    Changed: props<{ proof: ProofSummary | null }>(),
    /** It is to be looked at again, for something went well here. */
    Look: emptyProps(),
    /** The same, for something was done elsewhere: what was refused here stays in sight. */
    Follow: emptyProps(),
    Found: props<{ proof: ProofSummary | null }>(),
    Undo: emptyProps(),
    Redo: emptyProps(),
  },
});
