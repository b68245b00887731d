import { type PriceRuleWire, problemWords } from '@ivory/contract';
import { type Currency, plainPercent, readAmountOrPercent, readMoney, readPercent, showMoney } from '@ivory/core';
import { type RuleForm } from '../state/ruleDraft.ts';
import { words } from '../words/en.ts';

/** What was understood of it, said before anything happens; the rule itself only when all of it reads. */
export interface ReadForm {
  readonly rule?: PriceRuleWire;
  readonly understood?: string;
  readonly sentence: string;
  readonly problems: { readonly amount?: string; readonly floor?: string; readonly largest?: string };
}

type Step = PriceRuleWire['steps'][number];

/** Reads the form: `20` is an amount and `20 %` a share, and the words say which. */
export function readForm(form: RuleForm, currency: Currency): ReadForm {
  const first = readStep(form, currency);
  const guards = readGuards(form);
  const steps: Step[] = first.step ? [first.step] : [];
  if (form.ending !== null) steps.push({ do: 'round to', ending: form.ending, direction: form.direction });
  const ending =
    form.ending === null ? '' : `, ${words.rule.directions[form.direction]} ${words.rule.endings[form.ending]}`;
  const incomplete = (form.verb !== 'nothing' && !first.step) || steps.length === 0;
  const sound = !incomplete && guards.floor === undefined && guards.largest === undefined;
  return {
    ...(sound && { rule: { steps, guards: guards.guards } }),
    ...(first.understood && { understood: first.understood }),
    sentence: (first.understood ?? words.rule.verbs[form.verb]) + ending,
    problems: {
      ...(first.problem && { amount: first.problem }),
      ...(guards.floor && { floor: guards.floor }),
      ...(guards.largest && { largest: guards.largest }),
    },
  };
}

function readStep(
  { verb, amount }: RuleForm,
  currency: Currency,
): { step?: Step; understood?: string; problem?: string } {
  if (verb === 'nothing' || amount.trim() === '') return {};
  if (verb === 'set') {
    const read = readMoney(amount, currency);
    if (!read.ok) return { problem: problemWords(read.problem) };
    return {
      step: { do: 'set', to: read.value.toString() },
      understood: words.rule.understoodSet(showMoney(read.value, currency)),
    };
  }
  // A sign would say the opposite of the verb, or the same twice.
  if (/^[-−]/.test(amount.trim())) return { problem: words.rule.signed(amount.trim()) };
  const read = readAmountOrPercent(amount, currency);
  if (!read.ok) return { problem: problemWords(read.problem) };
  const by = read.value;
  if (by.kind === 'percent') {
    return {
      step: { do: verb, by: { kind: 'percent', percent: by.percent.toString() } },
      understood: words.rule.understoodPercent(words.rule.verbs[verb], plainPercent(by.percent)),
    };
  }
  return {
    step: { do: verb, by: { kind: 'amount', amount: by.amount.toString() } },
    understood: words.rule.understoodAmount(words.rule.verbs[verb], showMoney(by.amount, currency)),
  };
}

function readGuards({ floor, largest }: RuleForm): {
  guards: PriceRuleWire['guards'];
  floor?: string;
  largest?: string;
} {
  const [low, far] = [floor, largest].map((text) => (text.trim() === '' ? undefined : readPercent(text)));
  const problem = (code: string) => problemWords({ code: 'percent-unreadable', value: code, expected: '25 %' });
  const badFloor = low !== undefined && (!low.ok || low.value >= 1_000_000n);
  const badLargest = far !== undefined && (!far.ok || far.value < 0n);
  return {
    guards: {
      ...(low?.ok && !badFloor && { floorMargin: Number(low.value / 100n) }),
      ...(far?.ok && !badLargest && { largestChange: far.value.toString() }),
    },
    ...(badFloor && { floor: problem(floor) }),
    ...(badLargest && { largest: problem(largest) }),
  };
}
