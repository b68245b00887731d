import { divideRounded } from './divideRounded.ts';
import { type BasisPoints } from './margin.ts';
import { type Money } from './money.ts';

const WHOLE = 10_000n;

/** The margin of many SKUs together: the sum of profits over the sum of net prices, exact until its one rounding. */
export class MarginSum {
  private readonly byRate = new Map<BasisPoints, { price: bigint; cost: bigint }>();

  add(price: Money, cost: Money, taxRate: BasisPoints): void {
    const sum = this.byRate.get(taxRate);
    if (sum) {
      sum.price += price;
      sum.cost += cost;
    } else this.byRate.set(taxRate, { price, cost });
  }

  /** In basis points; undefined where nothing has a price. */
  margin(): BasisPoints | undefined {
    // Over a common denominator, the product of (1 + rate) of every rate that occurs.
    let common = 1n;
    for (const rate of this.byRate.keys()) common *= WHOLE + BigInt(rate);
    let net = 0n;
    let cost = 0n;
    for (const [rate, sum] of this.byRate) {
      net += (sum.price * WHOLE * common) / (WHOLE + BigInt(rate));
      cost += sum.cost * common;
    }
    return net === 0n ? undefined : Number(divideRounded((net - cost) * WHOLE, net));
  }
}
