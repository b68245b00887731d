import {
  type Asking,
  buildRegister,
  type Category,
  CategoryTree,
  currencyOf,
  type ExamineSettings,
  type Field,
  NameList,
  type OwnField,
} from '@ivory/core';
import { type Db, named, type Tx } from '../db/connect.ts';

/** The shop: its settings, and what its questions and values are read with. */
export interface Shop extends Asking {
  readonly name: string;
  readonly timeZone: string;
  readonly settings: ExamineSettings;
  readonly ownFields: readonly OwnField[];
  readonly outlets: readonly { readonly id: string; readonly name: string }[];
}

type Named = readonly [id: string, name: string];

interface ShopRow {
  readonly name: string;
  readonly currency: string;
  readonly time_zone: string;
  readonly floor_margin_bp: number;
  readonly large_change_percent: number;
  readonly brands: Named[] | null;
  readonly suppliers: Named[] | null;
  readonly tags: Named[] | null;
  readonly lists: Named[] | null;
  readonly outlets: Named[] | null;
  readonly categories: Category[] | null;
  readonly fields:
    (Omit<OwnField, 'usedIn' | 'neededIn'> & { usedIn: string[] | null; neededIn: string[] | null })[] | null;
  readonly choices: { of: string; names: Named[] }[] | null;
}

const names = (table: string, name = 'name', order = 'name_key') =>
  `(select json_agg(json_build_array(id::text, ${name}) order by ${order}) from ${table})`;

const SHOP = `
  select s.name, s.currency, s.time_zone, s.floor_margin_bp, s.large_change_percent,
    ${names('brand')} as brands, ${names('supplier')} as suppliers, ${names('tag')} as tags,
    ${names('sku_list', 'title', 'id desc')} as lists, ${names('outlet', 'name', 'id')} as outlets,
    (select json_agg(json_build_object('id', id::text, 'parent', parent_id::text, 'name', name, 'place', place)
      order by place, id) from category) as categories,
    (select json_agg(json_build_object('id', id::text, 'kind', kind, 'name', name, 'type', type, 'unit', unit, 'slot', slot,
      'alsoCalled', also_called, 'usedIn', used_in::text[], 'neededIn', needed_in::text[], 'shopperSees', shopper_sees,
      'feed', feed) order by id) from own_field) as fields,
    (select json_agg(json_build_object('of', field_id::text, 'names', names)) from (
      select field_id, json_agg(json_build_array(id::text, name) order by place, name_key) as names
      from choice group by field_id) c) as choices
  from shop s`;

const VERSION = `select string_agg(version::text, '.' order by part) as version from register`;

/** The shop as it was last read, for each database: as long as nothing changed, it is not read again. */
const READ = new Map<string, { readonly version: string; readonly shop: Shop }>();
const MOST_READ = 20;

/**
 * The shop with its register of fields and the names behind references. It is read when its version is another than that of what
 * was read last; within a transaction that changed a name, that version is already another.
 */
export async function readShop(db: Db | Tx): Promise<Shop> {
  const connection = 'pool' in db ? db.pool : db.client;
  const { rows: versions } = await connection.query<{ version: string }>(named(VERSION));
  const { version } = versions[0]!;
  const known = READ.get(db.url);
  if (known?.version === version) return known.shop;
  const { rows } = await connection.query<ShopRow & { version: string }>(
    named(`select r.version, s.* from (${VERSION}) r, (${SHOP}) s`),
  );
  const shop = shopOf(rows[0]!, db.more);
  if (READ.size >= MOST_READ) READ.clear();
  READ.set(db.url, { version: rows[0]!.version, shop });
  return shop;
}

function shopOf(row: ShopRow & { version: string }, more: readonly Field[]): Shop {
  const list = (entries: readonly Named[] | null) => new NameList(new Map(entries ?? []));
  const ownFields = (row.fields ?? []).map(({ usedIn, neededIn, ...field }): OwnField => ({
    ...field,
    usedIn: usedIn ?? [],
    neededIn: neededIn ?? [],
  }));
  const outlets = (row.outlets ?? []).map(([id, name]) => ({ id, name }));
  return {
    name: row.name,
    timeZone: row.time_zone,
    register: buildRegister(row.version, { fields: ownFields, outlets }, more),
    ownFields,
    outlets,
    names: {
      currency: currencyOf(row.currency),
      lists: new Map([
        ['brand', list(row.brands)],
        ['supplier', list(row.suppliers)],
        ['tag', list(row.tags)],
        ['list', list(row.lists)],
        ...(row.choices ?? []).map(({ of, names }) => [`choice ${of}`, list(names)] as const),
      ]),
      categories: new CategoryTree(row.categories ?? []),
    },
    settings: { floorMargin: row.floor_margin_bp, largeChange: row.large_change_percent },
  };
}

/** The first person of the shop, who stands for everybody until there is a sign-in. */
export async function demoPerson(db: Db): Promise<{ id: string; name: string }> {
  return db.q.selectFrom('person').selectAll().orderBy('id').executeTakeFirstOrThrow();
}
