import { type ProofSummary } from '@ivory/contract';
import { withMade } from '@ivory/core';
import { createSelector, createSelectorFactory, resultMemoize } from '@ngrx/store';
import { moment } from '../api/moment.ts';
import { hand } from './hand.ts';
import { session } from './session.ts';

type Makes = ProofSummary['makes'];
const NOTHING: Makes = [];

/** The same array as long as it says the same: an edited price makes nothing else new. */
const selectMakes = createSelectorFactory<object, Makes>((projector) =>
  resultMemoize(projector, (a: Makes, b: Makes) => JSON.stringify(a) === JSON.stringify(b)),
)(hand.selectProof, (proof: ProofSummary | null) => proof?.makes ?? NOTHING);

/**
 * What values are typed, chosen and shown with where they go into the proof in hand: the shop with what that proof makes; at a past
 * moment there is none. Questions are read with the shop alone, as they ask what is there.
 */
export const selectAskingInHand = createSelector(
  session.selectAsking,
  selectMakes,
  moment.selectIsPast,
  (asking, makes, isPast) => (isPast ? asking : withMade(asking, makes)),
);
