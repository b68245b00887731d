import { type Stage } from './stages.ts';
import { type WhenOut } from './whenOut.ts';

export interface Stocked {
  readonly stage: Stage;
  readonly stock: number;
  readonly whenOut: WhenOut;
  readonly hasPrice: boolean;
  /** Of a set: one of its parts is not on sale. */
  readonly isPartOff?: boolean;
}

/** Whether shoppers see an SKU and can buy it, and the reason when not. Shop, feed and slip ask this one function. */
export type Availability =
  | { readonly seen: true; readonly state: 'in stock' | 'back-order' }
  | { readonly seen: true; readonly state: 'sold out'; readonly why: 'no stock' }
  | { readonly seen: false; readonly state: 'hidden'; readonly why: 'stage' | 'no price' | 'part' | 'no stock' };

export function availability({ stage, stock, whenOut, hasPrice, isPartOff }: Stocked): Availability {
  if (stage !== 'On sale') return { seen: false, state: 'hidden', why: 'stage' };
  if (!hasPrice) return { seen: false, state: 'hidden', why: 'no price' };
  if (isPartOff) return { seen: false, state: 'hidden', why: 'part' };
  if (stock > 0) return { seen: true, state: 'in stock' };
  if (whenOut === 'take back-orders') return { seen: true, state: 'back-order' };
  if (whenOut === 'show it as sold out') return { seen: true, state: 'sold out', why: 'no stock' };
  return { seen: false, state: 'hidden', why: 'no stock' };
}
