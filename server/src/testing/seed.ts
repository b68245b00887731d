import fc from 'fast-check';

/** Random cases begin from a seed that the test run says, so that a run is repeated as it was. */
const { TEST_SEED } = process.env;
fc.configureGlobal({
  ...fc.readConfigureGlobal(),
  ...(TEST_SEED !== undefined && { seed: Number(TEST_SEED) }),
});
