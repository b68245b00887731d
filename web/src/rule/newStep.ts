import {
  type Asking,
  type FieldKey,
  type GuardDraft,
  type GuardKey,
  type Result,
  type StepDraft,
  type Verb,
  VERBS,
} from '@ivory/core';
import { exampleOf, GUARDS, parseSteps, STEPS } from '@ivory/core/rules';
import { words } from '../words/en.ts';

/** What each verb is for, in the order in which verbs are offered. */
const GROUP_OF: Readonly<Record<Verb, keyof typeof words.rule.groups>> = {
  raise: 'amounts',
  lower: 'amounts',
  round: 'amounts',
  'round to steps': 'amounts',
  'work out': 'amounts',
  'for margin': 'amounts',
  'for markup': 'amounts',
  'keep between': 'amounts',
  set: 'any',
  clear: 'any',
  copy: 'any',
  'move by days': 'any',
  replace: 'texts',
  remove: 'texts',
  'remove value': 'texts',
  'put before': 'texts',
  'put after': 'texts',
  write: 'texts',
  'change case': 'texts',
  tidy: 'texts',
  cut: 'texts',
  'replace pattern': 'texts',
  add: 'several',
  take: 'several',
  move: 'several',
  'keep only': 'several',
  'put first': 'several',
};

/** Verbs as they are offered, by what they are for. */
export const VERB_GROUPS: readonly { readonly name: string; readonly verbs: readonly Verb[] }[] = (
  ['amounts', 'any', 'texts', 'several'] as const
).map((group) => ({
  name: words.rule.groups[group],
  verbs: (Object.keys(GROUP_OF) as Verb[]).filter((verb) => GROUP_OF[verb] === group),
}));

/** Fields that a verb begins with, where it takes them. */
const USUAL: readonly FieldKey[] = ['price', 'name', 'tags', 'stage'];

/** A step that nothing is said of yet, on a field that it takes: `wanted`, or one that is usual. */
export function blankStep(verb: Verb, { register }: Asking, wanted?: FieldKey): StepDraft {
  const kind = STEPS[verb];
  const fits = [...(wanted === undefined ? [] : [wanted]), ...USUAL].find((key) => kind.takes(register.get(key)));
  const field = fits ?? register.goods.find((one) => kind.takes(one))!.key;
  const others = Object.entries(kind.slots).flatMap(([name, { written, offered, example }]) => {
    const choices = written === 'field' && offered ? offered(register.get(field), { register } as Asking) : [];
    return choices.length === 0 ? [] : [[name, choices.includes(example) ? example : choices[0]!]];
  });
  return { do: verb, field, texts: Object.fromEntries(others) as Record<string, string>, where: '' };
}

/** A guard that nothing is said of yet, on the field that the rule changes where it takes it. */
export function blankGuard(guard: GuardKey, { register }: Asking, wanted: readonly FieldKey[]): GuardDraft {
  const kind = GUARDS[guard];
  const field = [...wanted, ...USUAL].find((key) => kind.takes(register.get(key))) ?? 'price';
  return { guard, field, texts: {}, does: 'stop' };
}

/** Steps as they are typed: a whole sentence or several, or only how one begins. */
export function typedSteps(text: string, asking: Asking): Result<readonly StepDraft[]> {
  const read = parseSteps(text, asking);
  const beginning = text.trim().toLowerCase();
  if (read.ok || beginning === '') return read;
  const verb = VERBS.find(
    (one) => words.rule.verbs[one].startsWith(beginning) || STEPS[one].sentence.startsWith(`${beginning} `),
  );
  return verb ? { ok: true, value: [blankStep(verb, asking)] } : read;
}

/** Sentences to type, an example of each verb. */
export const examples = (asking: Asking): readonly string[] => VERBS.map((verb) => exampleOf(STEPS[verb], asking));
