import { refusalWords } from '@ivory/contract';
import { ANYBODY, type Asking, type Buyer, namesBehind } from '@ivory/core';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';

/** Whoever prices are asked for: of a customer group or not, one piece. Refuses a group that the shop does not have. */
export function buyerOf({ group }: Db, { names }: Pick<Asking, 'names'>): Buyer {
  if (group === undefined) return ANYBODY;
  const name = namesBehind({ kind: 'customerGroup' }, names).byId.get(group);
  if (name === undefined) throw new Refusal('not found', refusalWords.prices.customerGroupGone);
  return { group: name, pieces: 1 };
}
