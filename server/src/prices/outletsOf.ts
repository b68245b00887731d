import { type AnswerOf, type calls } from '@ivory/contract';
import { onOutlet, outletPricing, type PriceAnswer, showValue } from '@ivory/core';
import { type Db } from '../db/connect.ts';
import { type Shop } from '../asked/names.ts';

type OnOutlet = AnswerOf<typeof calls.getSku>['onOutlets'][number];

/** What each outlet asks for an SKU by what everybody pays in the shop, with how it comes to that; of past moments there is no record. */
export async function outletsOf(db: Db, shop: Shop, sku: string, inShop: PriceAnswer): Promise<OnOutlet[]> {
  if (db.isPast) return [];
  const rows = await db.q
    .selectFrom('outlet_line')
    .select(['outlet_id', 'formula'])
    .where('sku_id', '=', sku)
    .execute();
  return shop.outlets.map(({ id, name, formula }) => {
    const own = rows.find(({ outlet_id }) => outlet_id === id)?.formula ?? null;
    const pricing = outletPricing(formula, shop.today, own);
    const { winner } = pricing ? onOutlet(inShop, pricing) : inShop;
    const holds = pricing && (own ?? formula?.formula);
    return {
      outlet: name,
      price: winner?.price.toString() ?? null,
      formula: holds ? showValue(shop.register.at('priceFormula', 'formula')!, holds, shop) : null,
      basedOn: pricing?.basedOn ?? null,
      isOwn: own !== null,
    };
  });
}
