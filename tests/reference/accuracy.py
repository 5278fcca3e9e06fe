"""How often the diagnosis is right, beside the best that can be done on the same draws."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from generator import KINDS, NAMES, SETS, SampledBayes, draw
from looks import CLASSES, TABLES, SampledClasses, draw_with_looks
from warmdraft.checks import checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, diagnose
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


#: What is read and what is looked at; the looks are those from outside and behind, nothing opened.
LOOKS_CLOSED = tuple(name for name in TABLES if checks()[name].access in ("outside", "behind")
                     and checks()[name].energy != "gas")  # fmt: skip
EVIDENCE: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "readings": (SETS["all"], ()),
    "looks": ((), LOOKS_CLOSED),
    "both": (SETS["taps"], LOOKS_CLOSED),
}


def judge_with_looks(draws: int, samples: int, seed: int) -> tuple[dict[str, float], dict[str, float]]:
    """Top-1 of ours and of Bayes by kind of evidence, over jobs of one fault or two."""
    rng = np.random.default_rng(seed)
    jobs, bayes = draw_with_looks(draws, rng), SampledClasses(samples, rng)
    machine = profile("full-size-electric")
    ours, best = {}, {}
    for name, (kinds, looks) in EVIDENCE.items():
        right = 0
        for i, truth in enumerate(jobs.truth):
            verdict = diagnose(Case(
                machine,
                readings=tuple(ReadingFact(k, float(jobs.read[i, list(KINDS).index(k)])) for k in kinds),
                findings=tuple(FindingFact(look, checks()[look].results[jobs.seen[look][i]]) for look in looks),
            ))  # fmt: skip
            single, pair = verdict.faults[0], verdict.pairs[0]
            both = verdict.pair_share * pair[1] > (1 - verdict.pair_share) * single.probability
            right += {*CLASSES[truth]} == ({*pair[0]} if both else {single.fault})
        ours[name] = right / draws
        best[name] = float((bayes.best(jobs, kinds, looks) == jobs.truth).mean())
    return ours, best
