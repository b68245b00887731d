export * from './arbitraryQuestion.ts';
export * from './testAsking.ts';
