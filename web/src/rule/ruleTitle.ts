import { type Asking, type RuleDraft } from '@ivory/core';
import { ruleSentence } from '@ivory/core/rules';
import { words } from '../words/en.ts';

const LONGEST_TITLE = 1_000;

/** What the edit is called that puts a rule into the proof: the rule as a sentence, and the rows that it is for. */
export const ruleTitle = (draft: RuleDraft, question: string, asking: Asking): string =>
  words.rule.titled(ruleSentence(draft, asking), question).slice(0, LONGEST_TITLE);
