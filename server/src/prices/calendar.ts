import { type AnswerOf, type calls, type CalendarSale, type SaleTimes } from '@ivory/contract';
import { printQuestion, showValue } from '@ivory/core';
import { sql } from 'kysely';
import { handLines } from '../changes/lookedThrough/lines.ts';
import { type Db } from '../db/connect.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { questionOf } from '../things/things.ts';

type Calendar = AnswerOf<typeof calls.getCalendar>;

/** What the proof in hand would write of each thing, by field. */
type Proposed = ReadonlyMap<string, ReadonlyMap<string, string | null>>;

/** All sales, those of the proof in hand too, with how many SKUs are in each, and the formulas that outlets have. */
export async function getCalendar(db: Db, person: string): Promise<Calendar> {
  const shop = await readShop(db);
  const standing = await standingSales(db, person, shop);
  const sales = [...standing, ...(await newSales(db, person, shop))];
  // Sales without a beginning come first; ties keep the order of reading.
  sales.sort((a, b) => ((a.proposed ?? a).from ?? -Infinity) - ((b.proposed ?? b).from ?? -Infinity) || 0);
  return { sales, formulas: await formulasInUse(db, person, shop) };
}

async function standingSales(db: Db, person: string, shop: Shop): Promise<CalendarSale[]> {
  const { rows } = await sql<
    Omit<CalendarSale, 'question' | 'proposed' | 'isNew' | 'starts' | 'ends'> & {
      starts: Date | null;
      ends: Date | null;
    }
  >`
    select s.id, s.name, s.from_day as "from", s.from_minute as "fromTime", s.until_day as until, s.until_minute as "untilTime",
      s.starts, s.ends, s.reduction, g.name as "group", s.above, coalesce(s.note, '') as note, coalesce(c.skus, 0)::int as skus
    from sale_span s left join customer_group g on g.id = s.group_id left join sale_count c on c.sale_id = s.id
    order by s.starts nulls first, s.ends, s.name_key`.execute(db.q);
  const hand = await proposedOf(db, person, 'sale');
  return rows.map(({ starts, ends, ...row }) => {
    const question = questionOf('sale', row.id, undefined, shop);
    return {
      ...row,
      starts: starts?.toISOString() ?? null,
      ends: ends?.toISOString() ?? null,
      isNew: false,
      question: question ? printQuestion(question, shop) : '',
      proposed: numbersOf(hand.get(row.id), row, ['from', 'fromTime', 'until', 'untilTime']),
    };
  });
}

/** Sales that the proof in hand makes, as it has them. */
async function newSales(db: Db, person: string, shop: Shop): Promise<CalendarSale[]> {
  const made = [...(await proposedOf(db, person, 'sale'))].filter(([, fields]) => fields.get('exists') != null);
  if (made.length === 0) return [];
  const { rows: counts } = await sql<{ id: string; skus: number }>`
    select l.scope as id, count(*)::int as skus from live_line l join proof p on p.id = l.proof_id
    where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing') and l.kind = 'sku' and l.field = 'salePrice'
      and l.scope = any(${made.map(([id]) => id)}::bigint[]) and l.after is not null group by 1`.execute(db.q);
  const skus = new Map(counts.map((row) => [row.id, row.skus]));
  const groupField = shop.register.at('sale', 'group')!;
  const nothing: SaleTimes = { from: null, fromTime: null, until: null, untilTime: null };
  return made.map(([id, fields]) => ({
    ...(numbersOf(fields, nothing, ['from', 'fromTime', 'until', 'untilTime']) ?? nothing),
    ...{ id, name: fields.get('name') ?? '', starts: null, ends: null, reduction: fields.get('reduction') ?? null },
    group: showValue(groupField, fields.get('group') ?? null, shop) || null,
    above: fields.get('above') === 'yes',
    ...{ note: fields.get('note') ?? '', skus: skus.get(id) ?? 0, proposed: null, isNew: true, question: '' },
  }));
}

/** The formulas that outlets have, with which of them. */
async function formulasInUse(db: Db, person: string, shop: Shop): Promise<Calendar['formulas']> {
  const { rows } = await sql<Omit<Calendar['formulas'][number], 'proposed'>>`
    select f.id, f.name, f.formula, f.based_on as "basedOn", f.from_day as "from", f.until_day as until,
      array_agg(o.name order by o.id) as outlets
    from price_formula f join outlet o on o.formula_id = f.id group by f.id order by f.from_day nulls first, f.name_key`.execute(
    db.q,
  );
  const field = shop.register.at('priceFormula', 'formula')!;
  const hand = await proposedOf(db, person, 'priceFormula');
  return rows.map((row) => ({
    ...row,
    formula: showValue(field, row.formula, shop),
    proposed: numbersOf(hand.get(row.id), row, ['from', 'until']),
  }));
}

async function proposedOf(db: Db, person: string, kind: 'sale' | 'priceFormula'): Promise<Proposed> {
  const things = new Map<string, Map<string, string | null>>();
  for (const { id, field, after } of await handLines(db, person, kind)) {
    const fields = things.get(id) ?? new Map<string, string | null>();
    things.set(id, fields.set(field, after));
  }
  return things;
}

/** Some numbers of a thing as the proof in hand would have them; null where it changes none of these. */
function numbersOf<Key extends string>(
  fields: ReadonlyMap<string, string | null> | undefined,
  stand: Readonly<Record<Key, number | null>>,
  keys: readonly Key[],
): Record<Key, number | null> | null {
  if (!fields || !keys.some((key) => fields.has(key))) return null;
  const said = (key: Key): number | null => {
    const after = fields.get(key);
    if (after === undefined) return stand[key];
    return after === null ? null : Number(after);
  };
  return Object.fromEntries(keys.map((key) => [key, said(key)])) as Record<Key, number | null>;
}
