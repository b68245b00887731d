import { withMade } from '@ivory/core';
import { createSelector } from '@ngrx/store';
import { hand } from './hand.ts';
import { session } from './session.ts';

const selectMakes = createSelector(hand.selectProof, (proof) => proof?.makes);

/**
 * What values are typed, chosen and shown with where they go into the proof in hand: the shop with what that proof makes. Questions are
 * read with the shop alone, as they ask what is there.
 */
export const selectAskingInHand = createSelector(session.selectAsking, selectMakes, (asking, makes) =>
  withMade(asking, makes ?? []),
);
