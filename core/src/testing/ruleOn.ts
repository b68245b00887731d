import { type Asking } from '../kinds/asking.ts';
import { type Row } from '../question/row.ts';
import { parseRule, readRule } from '../rules/ruleText.ts';
import { type Rule } from '../rules/rule.ts';
import { type Outcome, RunningRule, type WorkingRow } from '../rules/runRule.ts';
import { type Beside } from '../rules/guard.ts';

/** A rule for a spec, as it is typed. */
export function ruleOf(text: string, asking: Asking): Rule {
  const draft = parseRule(text, asking);
  if (!draft.ok) throw new Error(`${draft.problem.code}: ${draft.problem.value}`);
  const rule = readRule(draft.value, asking);
  if (!rule) throw new Error(`it does not read: ${text}`);
  return rule;
}

/** What a rule does to one SKU with its product: to the thing that it changes. */
export function ruleOn(text: string, row: Row, asking: Asking, beside?: Beside): Outcome {
  const running = new RunningRule(ruleOf(text, asking), asking, beside);
  const working: WorkingRow = { ...row };
  const { product, skus } = running.run('1', [{ id: '1', row: working }]);
  return (product ?? skus[0]!).outcome;
}
