"""What jobs teach: counts that add up, moves as large as the counts say, and no odd job that moves a verdict."""

import json
import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pytest import approx
from scipy.stats import binomtest

from strategies import exact_readings
from warmdraft.__main__ import main
from warmdraft.checks import UNTAUGHT, checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, diagnose, learned_told
from warmdraft.errors import DocumentError
from warmdraft.faults import ANY_MACHINE, Told, catalogue, prior_shares, prior_weights
from warmdraft.jobfile.learning_schema import CountsDocument, counts_document
from warmdraft.jobfile.strict import read_as
from warmdraft.learning import ODD_JOBS, WORTH_JOBS, Counts, counted, lessons_of, rightness, times_of, together, wilson
from warmdraft.machine import profile

MACHINE = profile("full-size-electric")


def case_of(fault, severity, looks=(), **more):
    exact = exact_readings(((fault, severity),))
    readings = tuple(ReadingFact(kind, exact[kind]) for kind in ("outlet_flow", "outlet_static_pressure"))
    return Case(MACHINE, readings=readings, findings=tuple(FindingFact(*look) for look in looks), **more)


def probabilities(case, taught=UNTAUGHT):
    return {row.fault: row.probability for row in diagnose(replace(case, taught=taught)).faults}


HOOD = case_of("hood_blocked", 20.0, [("hood_flap_by_finger", "stuck"), ("screen_light", "clean")],
               circumstances=frozenset({"pets"}), complaints=frozenset({"long_drying"}))  # fmt: skip
WHEEL = case_of("blower_wheel_fouled", 0.5, [("wheel_lamp", "packed")], circumstances=frozenset({"pets"}))
RUN = case_of("vent_run_packed", 8.0, [("hood_air", "weak")], complaints=frozenset({"overheats"}))
JOBS = [(HOOD, "hood_blocked"), (WHEEL, "blower_wheel_fouled"), (RUN, "vent_run_packed")]


@given(st.permutations([0, 0, 1, 2, 2, 2]))
def test_counts_add_up_in_any_order(order):
    whole = together(counted(*JOBS[place]) for place in order)
    rest = together(counted(*JOBS[place]) for place in sorted(order))
    assert whole.jobs == 6 and whole.causes == rest.causes
    assert whole.looks == approx(rest.looks)


@pytest.mark.parametrize("shown", [0.0, 0.5, 1.0])
def test_a_job_counts_as_far_as_it_was_shown(shown):
    counts = counted(HOOD, "hood_blocked", shown)
    assert counts.jobs == shown == sum(counts.causes.values())
    # every look is counted once, whichever row of its table it speaks for; a felt one after the first counts half
    assert sum(counts.looks.values()) == approx(2 * shown)


def test_a_look_speaks_for_the_fault_as_far_as_that_had_come():
    def named(severity):
        looks = counted(case_of("hood_blocked", severity, [("hood_look", "blocked")]), "hood_blocked").looks
        return {row: n for (_, row, _), n in looks.items()}.get("hood_blocked", 0.0)

    assert named(90.0) > 0.98 > named(4.2)


def test_what_one_job_says_moves_nothing_and_what_several_say_does():
    one = lessons_of(counted(HOOD, "hood_blocked"))
    assert not one.causes
    assert probabilities(RUN, one.taught) == approx(probabilities(RUN))
    six = lessons_of(together([counted(HOOD, "hood_blocked")] * 6))
    moved = {(row.holds, row.fault) for row in six.causes}
    assert {(ANY_MACHINE, "hood_blocked"), ("pets", "hood_blocked")} <= moved
    assert probabilities(HOOD, six.taught)["hood_blocked"] > probabilities(HOOD)["hood_blocked"]


def test_no_single_odd_job_moves_a_verdict_by_more_than_a_little():
    many = [counted(*job) for job in JOBS for _ in range(20)]
    odd = counted(replace(HOOD, complaints=frozenset()), "lint_duct_broken")
    plain = lessons_of(together(many)).taught
    spoiled = lessons_of(together([*many, odd])).taught
    for case, _ in JOBS:
        before, after = probabilities(case, plain), probabilities(case, spoiled)
        assert max(abs(after[fault] - before[fault]) for fault in before) < 0.01


@given(
    counts=st.lists(st.integers(0, 400), min_size=2, max_size=6),
    seed=st.integers(0, 99),
)
def test_times_are_the_mean_of_a_dirichlet_but_for_the_odd_job(counts, seed):
    """Of a row of a table: (a·p + n) / (a + N), p our share (the posterior mean under a Dirichlet prior; Gelman et al.,
    Bayesian Data Analysis, 3rd ed., section 3.4)."""
    share = np.random.default_rng(seed).dirichlet(np.full(len(counts), 4.0))
    n, total = np.array(counts, dtype=float), float(sum(counts))
    worth = WORTH_JOBS * share
    found = times_of(n, total * share, worth)
    mean = (worth + n) / (worth + total * share)
    assert np.all(np.abs(found - mean) <= ODD_JOBS / (worth + total * share) + 1e-12)
    assert np.all((found - 1) * (mean - 1) >= 0)  # never to the other side


def test_causes_are_where_nothing_pulls_them_further():
    """The conditions of an optimum (Boyd and Vandenberghe, Convex Optimization, 5.5.3, from memory): at each move what
    was counted, and what our tables stand for, balance what is now expected, but for the odd job."""
    counts = together([counted(*JOBS[0])] * 9 + [counted(*JOBS[1])] * 4 + [counted(*JOBS[2])] * 14)
    lessons = lessons_of(counts)
    assert len(lessons.causes) > 6
    told = list({one for one, _ in counts.causes})
    weighed = [prior_weights(one) for one in told]
    times = np.ones((len(told), len(catalogue())))
    for move in lessons.causes:
        times[[move.holds in one.holds for one in told], list(catalogue()).index(move.fault)] *= move.times
    jobs = np.array([sum(n for (one, _), n in counts.causes.items() if one == this) for this in told])
    expected = jobs[:, None] * prior_shares(np.array([w for w, _ in weighed]) * times,
                                            np.array([quiet for _, quiet in weighed]))  # fmt: skip
    for move in lessons.causes:
        now = expected[[move.holds in one.holds for one in told], list(catalogue()).index(move.fault)].sum()
        pull = move.counted - now - math.copysign(ODD_JOBS, move.times - 1)
        worth = pull / (move.times - 1)  # what holds it back, in jobs for each time
        ours = WORTH_JOBS * prior_shares(weighed[0][0], weighed[0][1])[list(catalogue()).index(move.fault)]
        assert worth == approx(max(worth, 6.0), rel=0.02) and worth <= max(12.0, 3 * ours) * 1.02, move


def test_counts_come_back_from_their_document():
    counts = together(counted(*job) for job in JOBS)
    document = json.loads(json.dumps(counts_document(counts)))
    back = read_as(CountsDocument, document, "counts").counts()
    assert back.jobs == counts.jobs and back.causes == counts.causes
    assert back.looks == approx({key: n for key, n in counts.looks.items() if n >= 5e-4}, abs=1e-3)
    said = {key for part in ("causes", "looks") for row in document[part] for key in row}
    assert said == {"machine", "fault", "count", "check", "row", "result"}
    assert {key for row in document["causes"] for key in row["machine"]} <= set(Told.__dataclass_fields__)


GOOD = {"format": "warm-draft/counts", "version": 1, "jobs": 2, "causes": [{"fault": "hood_blocked", "count": 2}],
        "looks": [{"check": "hood_look", "row": "hood_blocked", "result": "blocked", "count": 2}]}  # fmt: skip


def test_what_was_counted_no_time_says_nothing():
    document = GOOD | {"causes": [{"fault": "hood_blocked", "count": 0}], "looks": []}
    counts = read_as(CountsDocument, document, "counts").counts()
    assert not counts.causes and not lessons_of(counts).causes


@pytest.mark.parametrize(
    ("change", "where", "says"),
    [
        ({"jobs": -1}, "$.jobs", "give one from 0"),
        ({"jobs": float("nan")}, "$.jobs", "finite"),
        ({"causes": [{"fault": "gremlins", "count": 1}]}, "$.causes[0].fault", "is not a fault"),
        ({"causes": [{"fault": "none", "count": 1, "machine": {"motors": 3}}]}, "$.causes[0].machine.motors", "1"),
        ({"looks": [{"check": "outlet_flow", "row": "rest", "result": "low", "count": 1}]}, "$.looks[0].check", "look"),
        ({"looks": [{"check": "hood_look", "row": "belt", "result": "blocked", "count": 1}]}, "$.looks[0].row", "rest"),
        ({"looks": [{"check": "hood_look", "row": "rest", "result": "red", "count": 1}]}, "$.looks[0].result", "clear"),
        ({"people": ["A"]}, "$.people", "not known"),
    ],
)  # fmt: skip
def test_counts_that_nobody_can_mean_are_said_so(change, where, says):
    with pytest.raises(DocumentError) as error:
        read_as(CountsDocument, {**GOOD, **change}, "counts")
    assert error.value.path == where and says in error.value.message


def job_document(**more):
    return {
        "format": "warm-draft/job", "version": 1, "circumstances": ["pets"], "confirmed": [{"fault": "hood_blocked"}],
        "readings": [
            {"kind": "outlet_flow", "value": 82, "unit": "cfm"},
            {"kind": "outlet_flow", "value": 172, "unit": "cfm", "phase": "after"},
            {"kind": "outlet_static_pressure", "value": 0.38, "unit": "inH2O", "phase": "after"},
        ],
        "findings": [{"check": "hood_flap_by_finger", "result": "stuck"}], **more,
    }  # fmt: skip


def test_the_command_counts_jobs_says_what_they_teach_and_judges_by_it(tmp_path, capsys):
    files = []
    for number in range(5):
        files.append(tmp_path / f"job-{number}.json")
        files[-1].write_text(json.dumps(job_document()))
    assert main(["learn", "--together", *map(str, files)]) == 0
    counts = tmp_path / "counts.json"
    counts.write_text(capsys.readouterr().out)
    assert json.loads(counts.read_text())["jobs"] == 5
    assert main(["learn", str(counts)]) == 0
    told = json.loads(capsys.readouterr().out)
    first = told["causes"][0]
    assert (first["holds"], first["fault"]) == (ANY_MACHINE, "hood_blocked") and first["times"] > 1
    assert "from 5 of 5 jobs" in first["text"]
    new = tmp_path / "new.json"
    new.write_text(json.dumps(job_document(confirmed=[])))
    assert main(["diagnose", str(new)]) == 0
    plain = json.loads(capsys.readouterr().out)
    assert main(["diagnose", "--taught", str(counts), str(new)]) == 0
    taught = json.loads(capsys.readouterr().out)
    of = lambda answer: next(row["probability"] for row in answer["faults"] if row["fault"] == "hood_blocked")  # noqa: E731
    assert of(taught) > of(plain)


@pytest.mark.parametrize(
    ("change", "jobs"),
    [
        ({}, 1.0),
        ({"confirmed": []}, 0.0),
        # nobody measured after it: what was said is half a job
        ({"readings": [{"kind": "outlet_flow", "value": 82, "unit": "cfm"}]}, 0.5),
        # the proof speaks against it: it teaches nothing
        ({"readings": [{"kind": "outlet_flow", "value": 82, "unit": "cfm"},
                       {"kind": "outlet_flow", "value": 84, "unit": "cfm", "phase": "after"}]}, 0.0),
    ],
)  # fmt: skip
def test_a_cause_counts_by_what_shows_it(change, jobs, tmp_path, capsys):
    file = tmp_path / "job.json"
    file.write_text(json.dumps(job_document(**change)))
    assert main(["learn", str(file)]) == 0
    assert json.loads(capsys.readouterr().out)["jobs"] == jobs


def test_tables_stay_tables():
    lessons = lessons_of(together([counted(*JOBS[0])] * 40))
    for name, rows in lessons.taught.looks.items():
        assert rows.p.sum(axis=1) == approx(1) and rows.rest.sum() == approx(1), name
        assert rows.p.shape == (len(catalogue()), len(checks()[name].results))
    assert lessons.taught.looks and all(0 < row.taught < 1 for row in lessons.looks)
    assert Counts() == together([]) and Told() == Told()


@given(st.integers(1, 300), st.data())
def test_where_a_share_truly_lies_is_as_a_library_has_it(of, data):
    right = data.draw(st.integers(0, of))
    theirs = binomtest(right, of).proportion_ci(0.90, "wilson")  # scipy 1.x
    assert wilson(right, of) == approx((theirs.low, theirs.high), abs=1e-3)


def test_verdicts_that_say_what_is_so_are_not_off():
    rng = np.random.default_rng(5)
    said = rng.uniform(0.2, 1, 4000)
    honest = rightness(list(said), list(rng.random(4000) < said), list(said))
    boasting = rightness(list(said), list(rng.random(4000) < 0.6 * said), list(said))
    assert honest.off < 0.03 < 0.2 < boasting.off
    assert sum(row.right_low <= row.said <= row.right_high for row in honest.stretches) >= 3
    assert sum(row.jobs for row in honest.stretches) == honest.jobs == 4000
    assert rightness([], [], []) is None


def test_people_are_told_what_they_would_notice():
    lessons = lessons_of(together([counted(*JOBS[0])] * 2 + [counted(*JOBS[1])] * 9))
    told = lessons.worth_telling()
    assert 0 < len(told.causes) < len(lessons.causes)
    assert all(not 0.96 < row.times < 1.04 for row in told.causes)


def test_a_verdict_tells_what_jobs_taught_of_what_it_names():
    taught = lessons_of(together([counted(*JOBS[0])] * 6)).taught
    told = learned_told(replace(HOOD, taught=taught), diagnose(replace(HOOD, taught=taught)))
    assert {row.fault for row in told} == {"hood_blocked"}
    assert {row.holds for row in told} <= {ANY_MACHINE, "full-size-electric", "pets", "long_drying"}
    # where pets are not said, nothing is told of them; nor of a fault that is hardly thought of
    assert "pets" not in {row.holds for row in learned_told(replace(RUN, taught=taught), diagnose(RUN))}
