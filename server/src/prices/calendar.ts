import { type AnswerOf, type calls } from '@ivory/contract';
import { printQuestion, showValue } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { readShop, type Shop } from '../range/names.ts';
import { pendingOn } from '../range/rows.ts';
import { questionOf } from '../range/things.ts';

type Calendar = AnswerOf<typeof calls.getCalendar>;
type Row = Omit<Calendar['sales'][number], 'question' | 'proposed'>;

/** The formulas that outlets have, with which of them. */
async function formulasInUse(db: Db, shop: Shop): Promise<Calendar['formulas']> {
  const { rows } = await sql<Calendar['formulas'][number]>`
    select f.id, f.name, f.formula, f.based_on as "basedOn", f.from_day as "from", f.until_day as until,
      array_agg(o.name order by o.id) as outlets
    from price_formula f join outlet o on o.formula_id = f.id group by f.id order by f.from_day nulls first, f.name_key`.execute(
    db.q,
  );
  const field = shop.register.at('priceFormula', 'formula')!;
  return rows.map((row) => ({ ...row, formula: showValue(field, row.formula, shop) }));
}

/** All sales, with how many SKUs are in each, in the order in which they begin; those without a beginning first. */
export async function getCalendar(db: Db, person: string): Promise<Calendar> {
  const shop = await readShop(db);
  const { rows } = await sql<Row>`
    select s.id, s.name, s.from_day as "from", s.until_day as until, s.reduction, g.name as "group", s.above,
      coalesce(s.note, '') as note, coalesce(c.skus, 0)::int as skus
    from sale s left join customer_group g on g.id = s.group_id left join sale_count c on c.sale_id = s.id
    order by s.from_day nulls first, s.until_day, s.name_key
  `.execute(db.q);
  const pending = await pendingOn(
    db,
    person,
    rows.map(({ id }) => ({ kind: 'sale', id })),
  );
  return {
    formulas: await formulasInUse(db, shop),
    sales: rows.map((row) => {
      const question = questionOf('sale', row.id, undefined, shop);
      const days = pending.filter(({ id, field }) => id === row.id && (field === 'from' || field === 'until'));
      const day = (field: 'from' | 'until') => {
        const line = days.find((one) => one.field === field);
        if (!line) return row[field];
        return line.after === null ? null : Number(line.after);
      };
      const proposed = days.length === 0 ? null : { from: day('from'), until: day('until') };
      return { ...row, question: question ? printQuestion(question, shop) : '', proposed };
    }),
  };
}
