"""What jobs counted: which fault it was on what machine, and what checks gave there. No people, no places, no days.

Counts add up, in any order and of any number of workshops; a job is taken out by leaving its own out.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from warmdraft.air import Floats
from warmdraft.checks import REST, UNTAUGHT
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.evidence import conditions_of, numbers_of, reading_groups, seen_in, told_of
from warmdraft.diagnosis.hypotheses import Hypotheses, hypotheses_of
from warmdraft.diagnosis.posterior import fit, normalised
from warmdraft.faults import Told

#: A row of a look's table and a result: check, key of the row (see Check.key_of), result.
LookKey = tuple[str, str, str]


@dataclass(frozen=True, slots=True)
class Counts:
    """What jobs counted, each by how well it was shown, up to 1.

    jobs: how many; causes: by what was known of the machine beforehand, and what it was; looks: what checks gave, by
    row of their tables.
    """

    jobs: float = 0.0
    causes: Mapping[tuple[Told, str], float] = field(default_factory=dict)
    looks: Mapping[LookKey, float] = field(default_factory=dict)


def together(counts: Iterable[Counts]) -> Counts:
    """Counts added up.

    >>> one = Counts(1.0, {(Told(), "hood_blocked"): 1.0})
    >>> together([one, one]).causes == {(Told(), "hood_blocked"): 2.0}
    True
    """
    jobs, causes, looks = 0.0, Counter[tuple[Told, str]](), Counter[LookKey]()
    for one in counts:
        jobs += one.jobs
        causes.update(one.causes)
        looks.update(one.looks)
    return Counts(jobs, dict(causes), dict(looks))


def counted(case: Case, fault: str, shown: float = 1.0) -> Counts:
    """What a job counts, of which it is known what it was. case: as it was before the work; shown: how well that is
    shown, 0 to 1.

    Of what a check gave, its row for the fault has the share that the readings leave to a fault as far come; the rest
    is the row's for whatever is not named.
    Source: the expectation step of a mixture (Dempster, Laird, Rubin 1977, from memory).

    >>> from warmdraft.diagnosis import FindingFact
    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'), findings=(FindingFact('hood_flap_by_finger', 'stuck'),))
    >>> round(counted(case, 'hood_blocked').looks['hood_flap_by_finger', 'hood_blocked', 'stuck'], 1)
    1.0
    """
    if shown <= 0:
        return Counts()
    case = replace(case, taught=UNTAUGHT)
    everything = hypotheses_of(case.machine, conditions_of(case), case.kinds, case.air_told)
    here = next(span for row, span in everything.spans if row.name == fault)
    hypotheses = everything.kept(np.arange(here.start, here.stop))
    weight = _by_readings(case, hypotheses)
    looks: Counter[LookKey] = Counter()
    for seen in seen_in(case):
        if seen.finding.shares:
            continue  # what nobody could tell clearly says nothing of how clearly it is told
        name, result = seen.check.name, seen.finding.result
        column = seen.check.results.index(result)
        not_named = (1 - hypotheses.come_of(name)) * seen.rows.rest[column]
        of_rest = float(weight @ not_named / (weight @ hypotheses.look(name, seen.rows)[:, column]))
        for key, part in ((REST, of_rest), (seen.check.key_of(fault), 1 - of_rest)):
            looks[name, key, result] += shown * seen.share * part  # type: ignore[assignment]
    return Counts(shown, {(told_of(case), fault): shown}, {key: number for key, number in looks.items() if number > 0})


def _by_readings(case: Case, hypotheses: Hypotheses) -> Floats:
    """Weight of the hypotheses of one fault by what was read; (H,), sums to 1."""
    groups = reading_groups(case.readings, hypotheses.predictable)
    return normalised(hypotheses.log_share + fit(numbers_of(groups, hypotheses)).log_likelihood)
