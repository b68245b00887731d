/** Properties over a database take their time on a busy machine. */
jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;
