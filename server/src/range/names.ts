import { CategoryTree, currencyOf, type ExamineSettings, NameList, type Names } from '@ivory/core';
import { type Db, named, type Tx } from '../db/connect.ts';

export interface Shop {
  readonly name: string;
  readonly timeZone: string;
  readonly names: Names;
  readonly settings: ExamineSettings;
}

interface ShopRow {
  readonly name: string;
  readonly currency: string;
  readonly time_zone: string;
  readonly floor_margin_bp: number;
  readonly large_change_percent: number;
  readonly brands: [string, string][] | null;
  readonly suppliers: [string, string][] | null;
  readonly lists: [string, string][] | null;
  readonly categories: { id: string; parent: string | null; name: string; place: number }[] | null;
}

const SHOP = `
  select s.name, s.currency, s.time_zone, s.floor_margin_bp, s.large_change_percent,
    (select json_agg(json_build_array(id::text, name) order by name_key) from brand) as brands,
    (select json_agg(json_build_array(id::text, name) order by name_key) from supplier) as suppliers,
    (select json_agg(json_build_array(id::text, title) order by id desc) from sku_list) as lists,
    (select json_agg(json_build_object('id', id::text, 'parent', parent_id::text, 'name', name, 'place', place)
      order by place, id) from category) as categories
  from shop s`;

/** The shop with the names behind references, read in one round. */
export async function readShop(db: Db | Tx): Promise<Shop> {
  const { rows } = await ('pool' in db ? db.pool : db.client).query<ShopRow>(named(SHOP));
  const shop = rows[0]!;
  return {
    name: shop.name,
    timeZone: shop.time_zone,
    names: {
      currency: currencyOf(shop.currency),
      brand: new NameList(new Map(shop.brands ?? [])),
      supplier: new NameList(new Map(shop.suppliers ?? [])),
      lists: new NameList(new Map(shop.lists ?? [])),
      categories: new CategoryTree(shop.categories ?? []),
    },
    settings: { floorMargin: shop.floor_margin_bp, largeChange: shop.large_change_percent },
  };
}

/** The first person of the shop, who stands for everybody until there is a sign-in. */
export async function demoPerson(db: Db): Promise<{ id: string; name: string }> {
  return db.q.selectFrom('person').selectAll().orderBy('id').executeTakeFirstOrThrow();
}
