"""The workshop as a whole: what its jobs taught it, how right its verdicts were, how its work stands."""
