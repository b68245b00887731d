import { type BasisPoints, grossMargin } from '../money/margin.ts';
import { type Money } from '../money/money.ts';
import { changeInPercent, ONE_PERCENT } from '../money/percent.ts';
import { warningBit } from '../kinds/warning.ts';

/** The shop's own limits. */
export interface ExamineSettings {
  readonly floorMargin: BasisPoints;
  /** A price that moves further than this is a thing to look at. */
  readonly largeChange: BasisPoints;
}

/** The money of one SKU before and after a proof. */
export interface MoneyChange {
  readonly priceBefore: Money | null;
  readonly priceAfter: Money | null;
  readonly costAfter: Money | null;
  readonly taxRate: BasisPoints;
}

/**
 * Says what to look at where a proof changes an SKU's price or cost: no price, one of nothing, one below cost or below the floor
 * margin, one that moves further than the shop's limit. Gives the flags of the SKU's price and cost lines.
 */
export function moneyExaminer(settings: ExamineSettings): (change: MoneyChange) => number {
  const limit = (BigInt(settings.largeChange) * ONE_PERCENT) / 100n;
  return ({ priceBefore, priceAfter, costAfter, taxRate }) => {
    if (priceAfter === null) return warningBit('no price');
    let flags = priceAfter === 0n ? warningBit('price of nothing') : 0;
    if (costAfter !== null) flags |= examineMargin(priceAfter, costAfter, taxRate, settings);
    if (priceBefore !== null && priceBefore !== priceAfter) {
      const moved = changeInPercent(priceBefore, priceAfter);
      if (moved === undefined || moved > limit || moved < -limit) flags |= warningBit('large change');
    }
    return flags;
  };
}

function examineMargin(price: Money, cost: Money, taxRate: BasisPoints, settings: ExamineSettings): number {
  const margin = grossMargin(price, cost, taxRate);
  if (margin === undefined) return 0;
  if (margin < 0) return warningBit('below cost');
  return margin < settings.floorMargin ? warningBit('below floor') : 0;
}
