import { type Bought } from './bought.ts';
import { type Stage } from './stages.ts';
import { type WhenOut } from './whenOut.ts';

export interface Stocked {
  readonly stage: Stage;
  readonly stock: number;
  readonly whenOut: WhenOut;
  readonly hasPrice: boolean;
  /** It is announced and not here yet where this is false: it counts as out of stock, whatever the books say. */
  readonly hasArrived?: boolean;
  /** Of a set: one of its parts is not on sale. */
  readonly isPartOff?: boolean;
  /** Whether it can be bought, where that is not simply so; the day from which on, as days since 1970; and today, in the shop's zone. */
  readonly bought?: Bought;
  readonly boughtFrom?: number | null;
  readonly today?: number;
}

/** Whether shoppers see an SKU and can buy it, and the reason when not. Shop, feed, slip and folio ask this one function. */
export type Availability =
  | { readonly seen: true; readonly state: 'in stock' | 'back-order' }
  | { readonly seen: true; readonly state: 'sold out'; readonly why: 'no stock' | 'not arrived' }
  /** It is shown, and cannot be bought: at all, or before a day, where one is said. */
  | { readonly seen: true; readonly state: 'not bought'; readonly why: 'not bought' }
  | { readonly seen: true; readonly state: 'not yet'; readonly why: 'not yet'; readonly from: number | null }
  | {
      readonly seen: false;
      readonly state: 'hidden';
      readonly why: 'stage' | 'no price' | 'part' | 'no stock' | 'not arrived';
    };

/** Whether an SKU is seen and can be bought. What is not on sale, has no price or lacks a part is not seen at all. */
export function availability(goods: Stocked): Availability {
  const {
    stage,
    stock,
    whenOut,
    hasPrice,
    isPartOff,
    hasArrived = true,
    bought = 'yes',
    boughtFrom = null,
    today = 0,
  } = goods;
  if (stage !== 'On sale') return { seen: false, state: 'hidden', why: 'stage' };
  if (!hasPrice) return { seen: false, state: 'hidden', why: 'no price' };
  if (isPartOff) return { seen: false, state: 'hidden', why: 'part' };
  if (bought === 'no') return { seen: true, state: 'not bought', why: 'not bought' };
  if (bought === 'from a date' && (boughtFrom === null || today < boughtFrom))
    return { seen: true, state: 'not yet', why: 'not yet', from: boughtFrom };
  if (stock > 0 && hasArrived) return { seen: true, state: 'in stock' };
  const why = hasArrived ? 'no stock' : 'not arrived';
  if (whenOut === 'take back-orders') return { seen: true, state: 'back-order' };
  if (whenOut === 'show it as sold out') return { seen: true, state: 'sold out', why };
  return { seen: false, state: 'hidden', why };
}
