import { refusalWords } from '@ivory/contract';
import { type Asking, keptQuestion, leadsTo, type Line, placeOf, type Problem } from '@ivory/core';
import { Refusal } from '../../refusal.ts';

/** Refuses rules of assortments that refer to themselves, directly or through others. */
export function refuseRulesToThemselves(lines: readonly Line[], asking: Asking): void {
  const problems = lines.flatMap(({ kind, id, field: key, after }): Problem[] => {
    const field = asking.register.at(kind, key);
    const rule = field?.type === 'rule' && after !== null ? keptQuestion(after, asking) : undefined;
    if (!rule || !leadsTo(id, rule, asking)) return [];
    const name = asking.names.lists.get('assortment')?.byId.get(id) ?? '';
    return [{ code: 'rule-leads-to-itself', value: name, ...placeOf(field!) }];
  });
  if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems);
}
