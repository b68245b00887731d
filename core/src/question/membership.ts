import { type Asking } from '../kinds/asking.ts';
import { answers } from './evaluate.ts';
import { namedBy } from './kept.ts';
import { type Row } from './row.ts';
import { type Question } from './tree.ts';

/** Why a row is in an assortment: put in by hand, or by its rule. */
export type Membership = 'by hand' | 'by rule';

/**
 * Why a row is in an assortment, or undefined: what was kept out by hand is not in it, whatever else holds. The SQL twin is
 * `memberSql`.
 */
export function membership(assortment: string, row: Row, asking: Asking): Membership | undefined {
  const has = (value: string | null | undefined) => (value ?? '').split('|').includes(assortment);
  if (has(row.keptOut)) return undefined;
  if (has(row.putIn)) return 'by hand';
  const rule = asking.rules.get(assortment);
  return rule && answers(rule, row, withoutRule(assortment, asking)) ? 'by rule' : undefined;
}

/** The ids of all assortments, in their order. */
export const assortmentIds = ({ names }: Pick<Asking, 'names'>): string[] => [
  ...(names.lists.get('assortment')?.byId.keys() ?? []),
];

/** The assortments that a row is in, in canonical text; null when in none. */
export function assortmentsOf(row: Row, asking: Asking): string | null {
  return (
    assortmentIds(asking)
      .filter((id) => membership(id, row, asking) !== undefined)
      .join('|') || null
  );
}

/** What the rule of an assortment is read with: within it, it has none itself, so that no rule leads to itself for ever. */
export function withoutRule(assortment: string, asking: Asking): Asking {
  const rules = new Map(asking.rules);
  rules.delete(assortment);
  return { ...asking, rules };
}

/** Whether a rule leads to an assortment, perhaps by way of the rules of others. */
export function leadsTo(assortment: string, rule: Question, asking: Asking): boolean {
  return namedBy(rule, 'assortment', asking).some((id) => {
    if (id === assortment) return true;
    const next = asking.rules.get(id);
    return next !== undefined && leadsTo(assortment, next, withoutRule(id, asking));
  });
}
