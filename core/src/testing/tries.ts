/** The environment, where there is one: specs of core run in browsers too. */
const env = (globalThis as { process?: { env: Readonly<Record<string, string | undefined>> } }).process?.env;

/** How many cases a property tries: so many in a test run, and many times that under `npm run fuzz`. */
export const tries = (usual: number): number => Math.round(usual * Number(env?.['FUZZ_TIMES'] ?? 1));
