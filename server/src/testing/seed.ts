import fc from 'fast-check';

/**
 * Random cases begin from a seed that the test run says, so that a run is repeated as it was. Under `npm run fuzz` properties end after a
 * time, so that many of them have their turn.
 */
const { TEST_SEED, FUZZ_MS } = process.env;
fc.configureGlobal({
  ...fc.readConfigureGlobal(),
  ...(TEST_SEED !== undefined && { seed: Number(TEST_SEED) }),
  ...(FUZZ_MS !== undefined && { interruptAfterTimeLimit: Number(FUZZ_MS) }),
});
