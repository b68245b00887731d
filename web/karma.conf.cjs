// Karma runs the specs of the web, and once more those of core, in Debian's headless Chromium on loopback.
module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    listenAddress: '127.0.0.1',
    hostname: '127.0.0.1',
    browsers: ['Quiet'],
    customLaunchers: {
      Quiet: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-dev-shm-usage',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    client: { jasmine: { random: true, seed: process.env.TEST_SEED, timeoutInterval: 20_000 } },
    reporters: ['progress'],
    browserNoActivityTimeout: 120_000,
  });
