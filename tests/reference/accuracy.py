"""How often the diagnosis is right, beside the best that can be done on the same draws."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from generator import KINDS, NAMES, SETS, SampledBayes, draw
from warmdraft.diagnosis import Case, ReadingFact, diagnose
from warmdraft.machine import profile

#: Verdicts said at this probability …
SAID = (0.8, 0.9)


@dataclass(frozen=True)
class Accuracy:
    """Top-1 of ours and of Bayes by set of readings; how often verdicts said at SAID were right, and how many."""

    ours: dict[str, float]
    best: dict[str, float]
    said_right: float
    said: int


def judge(draws: int, samples: int, seed: int) -> Accuracy:
    """Draw jobs, judge each with each set of readings."""
    rng = np.random.default_rng(seed)
    jobs, bayes = draw(draws, rng), SampledBayes(samples, rng)
    machine = profile("full-size-electric")
    ours, best, said = {}, {}, []
    for name, kinds in SETS.items():
        right = 0
        for truth, read in zip(jobs.truth, jobs.read, strict=True):
            facts = tuple(ReadingFact(k, float(read[list(KINDS).index(k)])) for k in kinds)
            first = diagnose(Case(machine, readings=facts)).faults[0]
            hit = first.fault == NAMES[truth]
            right += hit
            if SAID[0] <= first.probability <= SAID[1]:
                said.append(hit)
        ours[name] = right / draws
        best[name] = float((bayes.posterior(jobs.read, kinds).argmax(axis=1) == jobs.truth).mean())
    return Accuracy(ours, best, float(np.mean(said)), len(said))
