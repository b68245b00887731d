import { type Field, type Register } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { refreshPlaced, refreshShelf, refreshWithin, refreshWords, setsOf } from '../../db/shelf.ts';
import { type LineGroup } from './lineGroup.ts';

const MONEY = ['price', 'cost'];
const FIGURES = [...MONEY, 'stock'];

/** SKUs (products, where it is where they lie) whose rows of the read model follow, as a query for their ids from live lines `l`, and what of them, where not all of it. */
interface Following {
  readonly skus: RawBuilder<unknown>;
  readonly only?: 'words' | 'within' | 'placed';
}

/** Whether a column of goods stands in no row of the read model. */
const standsOutside = ({ kind, store, column }: Field): boolean =>
  store.in === 'column' && column === undefined && (kind === 'product' || kind === 'sku');

/** What of the read model is derived afresh for lines of a field; undefined where nothing changes, or is changed in place. */
function derivedFrom({ kind, field: key, scope }: LineGroup, register: Register): Following | undefined {
  const field = register.at(kind, key, scope);
  // What things have for each of something else stands in no row of the read model.
  if (field?.store.in === 'scoped') return undefined;
  const ofProducts = { skus: sql`select k.id from live_line l join sku k on k.product_id = l.id` };
  const ofOwn = field?.store.in === 'own';
  if (field && key !== 'clearedAway' && standsOutside(field)) return undefined;
  switch (kind) {
    case 'sku':
      // Of the fields that the shop makes, plain words are looked for in options only.
      return FIGURES.includes(key) || (ofOwn && field.own?.of !== 'option')
        ? undefined
        : { skus: sql`select l.id from live_line l` };
    case 'product':
      if (key === 'category') return { skus: sql`select l.id from live_line l`, only: 'placed' };
      // A product that goes off sale takes the sets with it that its SKUs are parts of.
      return ofOwn ? undefined : key === 'stage' ? { skus: WITH_SETS } : ofProducts;
    case 'brand':
      return key === 'name'
        ? { skus: sql`select f.sku_id as id from live_line l join shelf_facts f on f.brand_id = l.id`, only: 'words' }
        : undefined;
    case 'category':
      // Where a branch moved, whatever lies in it lies elsewhere.
      return key === 'parent'
        ? {
            skus: sql`select distinct f.product_id as id from live_line l join shelf_facts f on f.within @> array[l.id]`,
            only: 'within',
          }
        : undefined;
    case 'choice':
      return key === 'name' ? ofRenamedChoices(register) : undefined;
    default:
      return undefined;
  }
}

/** The SKUs of products, and the sets that they are parts of. */
const WITH_SETS = sql`
  select x.id from live_line l cross join lateral (
    select k.id from sku k where k.product_id = l.id
    union select s.sku_id from sku k join sku_part s on s.part_id = k.id where k.product_id = l.id) x`;

/** SKUs that have a value of an option which is called otherwise. */
function ofRenamedChoices(register: Register): Following | undefined {
  const slots = register.goods.flatMap(({ own, store }) =>
    own?.of === 'option' && store.in === 'own' ? [store.slot] : [],
  );
  if (slots.length === 0) return undefined;
  const values = sql.join(slots.map((slot) => sql.ref(`o.${slot}`)));
  return { skus: sql`select o.sku_id as id from live_line l join sku_own o on l.id in (${values})`, only: 'words' };
}

/**
 * Whether a landing must go alone. Prices, costs, stock and what the shop itself made change in place, side by side; what derives
 * rows afresh would not see what another is about to write, and what makes or deletes things not what another refers to.
 */
export const needsExclusiveLock = (groups: readonly LineGroup[], register: Register): boolean =>
  groups.some(
    (group) =>
      group.field === 'exists' ||
      // Rates of a class are rates of its goods.
      (group.kind === 'taxClass' && group.field === 'rates') ||
      group.field === 'taxClass' ||
      derivedFrom(group, register) !== undefined,
  );

/** Brings the read model up to date with lines that landed. */
export async function bringShelfUpToDate(
  tx: Tx,
  proof: string,
  groups: readonly LineGroup[],
  register: Register,
  progress: ((share: number) => Promise<void>) | undefined,
): Promise<void> {
  const following = groups.flatMap((group) => {
    // What a thing is made with is derived with it, once.
    if (group.standing === 0 && group.field !== 'exists') return [];
    const follows = derivedFrom(group, register);
    if (!follows) return [];
    const of = sql`l.proof_id = ${proof} and l.kind = ${group.kind} and l.field = ${group.field}`;
    return [{ skus: sql`${follows.skus} where ${of}`, only: follows.only }];
  });
  const parts = (only: Following['only']) => following.filter((one) => one.only === only).map(({ skus }) => skus);
  const [rows, words, within, placed] = [parts(undefined), parts('words'), parts('within'), parts('placed')];
  if (rows.length > 0) await refreshShelf(tx, sql.join(rows, sql` union `), progress);
  if (words.length > 0) await refreshWords(tx, sql.join(words, sql` union `));
  if (within.length > 0) await refreshWithin(tx, sql.join(within, sql` union `));
  if (placed.length > 0) await refreshPlaced(tx, sql.join(placed, sql` union `));
  const money = groups.filter(({ kind, field }) => kind === 'sku' && MONEY.includes(field));
  if (money.length > 0) {
    const touched = sql`select id from live_line where proof_id = ${proof} and kind = 'sku' and field = any (${MONEY}::text[])
      ${money.length > 1 ? sql`group by id` : sql``}`;
    await sql`
      update shelf_facts s set price = r.regular, cost = r.cost from (${touched}) l join price r on r.sku_id = l.id
      where s.sku_id = l.id and (s.price, s.cost) is distinct from (r.regular, r.cost)
    `.execute(tx.q);
  }
  if (groups.some(({ kind, field }) => kind === 'sku' && field === 'stock')) {
    await sql`
      update shelf_facts s set stock = t.on_hand from live_line l join stock_total t on t.sku_id = l.id
      where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'stock' and s.sku_id = l.id and s.stock <> t.on_hand
        and not exists (select from sku_part x where x.sku_id = l.id)
    `.execute(tx.q);
    await bringSetsUpToDate(tx, proof);
  }
}

/** What is in stock of a set follows from its parts. */
async function bringSetsUpToDate(tx: Tx, proof: string): Promise<void> {
  // Another landing may change another part of the same set: who comes second waits here, and then reads what the first left.
  const { rows } = await sql<{ id: string }>`
    select f.sku_id as id from shelf_facts f where f.sku_id in (
      select s.sku_id from live_line l join sku_part s on s.part_id = l.id
      where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'stock')
    order by f.sku_id for update
  `.execute(tx.q);
  if (rows.length === 0) return;
  const sets = rows.map(({ id }) => id);
  await sql`
    update shelf_facts f set stock = d.stock from (${setsOf(sql`select unnest(${sets}::bigint[])`)}) d
    where f.sku_id = d.sku_id and f.stock <> d.stock
  `.execute(tx.q);
}
