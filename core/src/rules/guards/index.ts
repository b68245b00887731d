import { type GuardKey, type GuardKind } from '../guard.ts';
import { floorMargin } from './floorMargin.ts';
import { greatest } from './greatest.ts';
import { largestChange } from './largestChange.ts';
import { least } from './least.ts';
import { notAbove } from './notAbove.ts';
import { notBelow } from './notBelow.ts';
import { notTwice } from './notTwice.ts';
import { onlyIfEmpty } from './onlyIfEmpty.ts';

/** Every guard, by its key. A new one is a file beside these, its key in `GUARD_KEYS`, and a line here. */
export const GUARDS: Readonly<Record<GuardKey, GuardKind>> = {
  margin: floorMargin,
  least,
  greatest,
  'largest change': largestChange,
  'not above': notAbove,
  'not below': notBelow,
  'only if empty': onlyIfEmpty,
  'not twice': notTwice,
};
