import { money } from '../../money/money.ts';
import { percent, raiseByPercent } from '../../money/percent.ts';
import { shareOf } from '../slots.ts';

/** An amount raised by what a slot says, an amount or a share of it; lowered where the sign is −1. */
export function raisedBy(by: string, sign: 1n | -1n): (amount: bigint) => bigint {
  const share = shareOf(by);
  if (share !== undefined) return (amount) => raiseByPercent(money(amount), percent(sign * share));
  const difference = sign * BigInt(by);
  return (amount) => amount + difference;
}
