export { freshDatabase } from './freshDatabase.ts';
export { openTestHouse, refusalOf, type TestHouse } from './testHouse.ts';
export * from './textRows.ts';
