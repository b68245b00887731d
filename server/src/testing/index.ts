export { freshDatabase } from './freshDatabase.ts';
export { startTestServer, refusalOf, type TestServer } from './testServer.ts';
export * from './textRows.ts';
