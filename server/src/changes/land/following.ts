import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { type Tx } from '../../db/connect.ts';
import { beginEdit, type ProofRow } from '../proof/proof.ts';
import { earlierNames } from './earlierNames.ts';
import { type LineGroup } from './lineGroup.ts';

/**
 * Values that follow from others, and are written by the landing that changes those, as lines of its own: so the journal has them,
 * and taking it back takes them back too. The rate of goods of a tax class is that which the class has today; the price of a set
 * that costs so much less than its parts is worked out from theirs.
 */
interface Following {
  readonly kind: 'product' | 'sku';
  readonly field: 'taxRate' | 'price';
  /** Fields whose lines may change it, as `kind field`. */
  readonly leads: readonly string[];
  /** Lines `(id, before, after)` for all that do not stand as they should. */
  readonly lines: RawBuilder<unknown>;
  /** Whether a line `l` of a proof is of a thing whose value follows, as the proof leaves it. */
  readonly follows: RawBuilder<boolean>;
}

/** What a field of the thing of a line `l` is once the proof has landed: as its line says, or as it stands. */
const willBe = (field: string, stands: RawBuilder<unknown>) => sql`(
  select case when n.id is not null then n.after is not null else ${stands} end
  from (select 1) one left join live_line n on n.proof_id = l.proof_id and n.kind = l.kind and n.id = l.id and n.field = ${sql.lit(field)})`;

/** Lines `(id, before, after)` for goods whose rate is not that of their class today. */
export const TAX_RATES = sql`
  select p.id, p.tax_bp::text as before, r.rate::text as after
  from product p join (select id, rate_on(rates, shop_today()) as rate from tax_class) r on r.id = p.tax_class_id
  where r.rate <> p.tax_bp`;

const FOLLOWING: readonly Following[] = [
  {
    kind: 'product',
    field: 'taxRate',
    leads: ['product taxClass', 'taxClass rates', 'product exists'],
    lines: TAX_RATES,
    follows: sql<boolean>`${willBe('taxClass', sql`exists (select from product p where p.id = l.id and p.tax_class_id is not null)`)}`,
  },
  {
    kind: 'sku',
    field: 'price',
    leads: ['sku price', 'sku parts', 'sku setLess'],
    lines: sql`
      select w.id, w.before::text, w.after::text from (
        select o.sku_id as id, r.regular as before,
          case when bool_and(x.regular is not null)
            then div(2 * sum(x.regular * s.times) * (10000 - o.set_less_bp) + 10000, 20000)::bigint end as after
        from sku_own o join price r on r.sku_id = o.sku_id
        join sku_part s on s.sku_id = o.sku_id left join price x on x.sku_id = s.part_id
        where o.set_less_bp is not null group by o.sku_id, r.regular, o.set_less_bp
      ) w where w.after is not null and w.before is distinct from w.after`,
    follows: sql<boolean>`(
      ${willBe('setLess', sql`exists (select from sku_own o where o.sku_id = l.id and o.set_less_bp is not null)`)}
      and ${willBe('parts', sql`exists (select from sku_part s where s.sku_id = l.id)`)}
      and not exists (select from live_line e where e.proof_id = l.proof_id and e.kind = 'sku' and e.id = l.id and e.field = 'exists'))`,
  },
];

/** Whether anything in the shop, or in the proof, can have a value that follows; nearly always nothing has. */
async function hasFollowing(tx: Tx, groups: readonly LineGroup[]): Promise<boolean> {
  if (groups.some(({ field }) => field === 'setLess' || field === 'taxClass')) return true;
  const { rows } = await sql<{ any: boolean }>`
    select exists (select from sku_own where set_less_bp is not null)
      or exists (select from product where tax_class_id is not null) as any`.execute(tx.q);
  return firstRow(rows).any;
}

/**
 * Takes lines out of a proof whose value follows from others: it is worked out when those have landed. Returns whether there were any, also
 * such as are left out.
 */
export async function leaveToFollow(tx: Tx, proof: string, groups: readonly LineGroup[]): Promise<boolean> {
  const may = FOLLOWING.filter((one) => groups.some(({ kind, field }) => kind === one.kind && field === one.field));
  if (may.length === 0 || !(await hasFollowing(tx, groups))) return false;
  let left = 0n;
  for (const { kind, field, follows } of may) {
    const { numAffectedRows = 0n } = await sql`
      delete from proof_line l where l.proof_id = ${proof} and l.kind = ${kind} and l.field = ${field} and ${follows}`.execute(
      tx.q,
    );
    left += numAffectedRows;
  }
  return left > 0n;
}

/**
 * Adds lines to a proof for what follows from what it has just changed; gives them as groups, which are still to be written into the
 * journal and to where they are stored.
 */
export async function addFollowing(
  tx: Tx,
  { id: proof, takes_back }: Pick<ProofRow, 'id' | 'takes_back'>,
  groups: readonly LineGroup[],
): Promise<LineGroup[]> {
  const changed = new Set(groups.map(({ kind, field }) => `${kind} ${field}`));
  const values = (await hasFollowing(tx, groups)) ? FOLLOWING : [];
  const added: LineGroup[] = [];
  for (const { kind, field, lines } of [
    ...values.filter(({ leads }) => leads.some((lead) => changed.has(lead))),
    // What a landing noted of names is taken back with it.
    ...(takes_back === null ? earlierNames(proof, groups) : []),
  ]) {
    const edit = await beginEdit(tx, proof, 'What follows from it');
    const { numAffectedRows } = await sql`
      insert into proof_line (proof_id, edit_no, kind, id, field, before, after)
      select ${proof}, ${edit}, ${kind}, f.id, ${field}, f.before, f.after from (${lines}) f
      where f.before is distinct from f.after on conflict do nothing
    `.execute(tx.q);
    const count = Number(numAffectedRows);
    if (count > 0) added.push({ kind, field, scope: '0', lines: count, stopping: 0, standing: count, edit });
  }
  return added;
}
