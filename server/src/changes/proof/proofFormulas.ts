import { type AnswerOf, type calls } from '@ivory/contract';
import { AS_IT_IS, type FormulaBase, showValue } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';

/** An outlet with the formula that a proof gives it, or of which it changes what that says. */
export interface FormulaOfProof {
  readonly outlet: string;
  readonly name: string;
  readonly formula_id: string;
  /** The proof gives it to the outlet, which may have had another. */
  readonly is_given: boolean;
  readonly formula: string;
  readonly based_on: FormulaBase;
}

/** The outlets whose formula the proof gives or changes, with what it then says. */
export async function formulasOfProof({ q }: Pick<Db, 'q'>, proof: string): Promise<readonly FormulaOfProof[]> {
  const lineOf = (name: string, field: string) => sql`left join live_line ${sql.ref(name)}
    on ${sql.ref(`${name}.proof_id`)} = ${proof} and ${sql.ref(`${name}.kind`)} = 'priceFormula' and ${sql.ref(`${name}.id`)} = g.formula_id
      and ${sql.ref(`${name}.field`)} = ${sql.lit(field)}`;
  const { rows } = await sql<FormulaOfProof>`
    select g.id as outlet, g.name, g.formula_id, g.is_given, coalesce(lf.after, f.formula, ${AS_IT_IS}) as formula,
      coalesce(lb.after, f.based_on, 'current price') as based_on
    from (
      select o.id, o.name, case when l.id is null then o.formula_id else l.after::bigint end as formula_id, l.id is not null as is_given
      from outlet o left join live_line l on l.proof_id = ${proof} and l.kind = 'outlet' and l.field = 'formula' and l.id = o.id) g
    left join price_formula f on f.id = g.formula_id ${lineOf('lf', 'formula')} ${lineOf('lb', 'basedOn')}
    where g.formula_id is not null and (g.is_given or lf.id is not null or lb.id is not null) order by g.id`.execute(q);
  return rows;
}

/** The same as it is read. */
export async function listProofFormulas(db: Db, proof: string): Promise<AnswerOf<typeof calls.listProofFormulas>> {
  const shop = await readShop(db);
  const field = shop.register.at('priceFormula', 'formula')!;
  const formulas = (await formulasOfProof(db, proof)).map(({ outlet, name, formula, based_on: basedOn }) => ({
    ...{ outlet, name, basedOn },
    formula: showValue(field, formula, shop),
  }));
  return { formulas };
}
