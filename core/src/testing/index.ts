export * from './arbitraryQuestion.ts';
export * from './ruleOn.ts';
export * from './testAsking.ts';
export * from './readingOf.ts';
export * from './tries.ts';
