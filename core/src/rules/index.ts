export { GUARDS } from './guards/index.ts';
export { problemsOfRule } from './rule.ts';
export { isCounted, RuleEffect } from './ruleEffect.ts';
export * from './ruleText.ts';
export { RunningRule } from './runRule.ts';
export { exampleOf, partsOfSentence } from './sentence.ts';
export { amountOrShare, canBeTable, shareOf } from './slots.ts';
export { STEPS } from './steps/index.ts';
export { isFoldedInTables } from './table.ts';
