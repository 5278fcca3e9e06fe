"""What stands behind ./warm: sets up, starts, stops, tests, measures. Python's standard library alone, so that it runs
before anything is installed."""
