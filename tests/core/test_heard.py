"""What a recording tells as evidence, as a fact of a job, and as what shows that the work worked."""

import pytest
from pytest import approx

from warmdraft.answers import job_answer
from warmdraft.diagnosis import Case, FindingFact, diagnose
from warmdraft.errors import DocumentError
from warmdraft.jobfile import read_job
from warmdraft.jobfile.simulate import as_document
from warmdraft.machine import profile
from warmdraft.sound import SOURCES, verdict_of, verdict_said
from warmdraft.words import words_for
from warmdraft.work import state_of

MACHINE = profile("full-size-electric")
RUMBLES = {"format": "warm-draft/job", "version": 1, "complaints": ["rumbles"]}


def job(*sounds, **more):
    return read_job(RUMBLES | {"sounds": list(sounds)} | more)


def zones(job):
    return dict(diagnose(job.case()).zones)


@pytest.mark.parametrize(
    ("verdict", "zone"),
    [("wheel_unbalance", "blower"), ("wheel_rub", "blower"), ("roller_flat", "drive"), ("idler_worn", "drive")],
)
def test_what_is_heard_tells_the_wheel_from_the_roller(verdict, zone):
    before, after = (
        zones(job()),
        zones(job({"verdict": verdict, "scores": {verdict: 0.95, "nothing_stands_out": 0.05}})),
    )
    other = {"blower": "drive", "drive": "blower"}[zone]
    assert max(after, key=after.get) == zone and after[other] < before[other]
    odds = {state: p[zone] / (1 - p[zone]) for state, p in (("before", before), ("after", after))}
    assert odds["after"] > 2 * odds["before"]  # what it came with was said already; a recording is one look more


def test_two_that_cannot_be_told_apart_leave_both():
    torn = zones(job({"verdict": "wheel_unbalance", "scores": {"wheel_unbalance": 0.5, "roller_flat": 0.5}}))
    sure = zones(job({"verdict": "wheel_unbalance", "scores": {"wheel_unbalance": 1.0}}))
    assert torn["drive"] > 5 * sure["drive"] and torn["blower"] < sure["blower"]


def test_a_verdict_that_says_nothing_moves_nothing():
    even = dict.fromkeys(SOURCES, 1.0)
    nothing = zones(job({"verdict": "wheel_unbalance", "scores": even}))
    assert sum(abs(nothing[zone] - p) for zone, p in zones(job()).items()) < 0.12  # rows of the table differ in shape


def test_one_noise_is_not_heard_twice():
    sound = FindingFact("rumble_sound", "roller_flat", None, verdict_said("roller_flat").shares_of(
        ("nothing_stands_out", "wheel_unbalance", "wheel_rub", "roller_flat", "idler_worn", "belt_lump")))  # fmt: skip
    ear = FindingFact("rumble_ear", "thump")

    def odds(*findings):
        found = {row.fault: row.probability for row in diagnose(Case(MACHINE, findings=findings)).faults}
        return found["roller_worn"] / found["none"]

    none, heard, listened, both = odds(), odds(sound), odds(ear), odds(ear, sound)
    assert heard / none > 3 and listened / none > 3
    assert both / heard == approx((listened / none) ** 0.5, rel=0.02)
    assert odds(sound, ear) == approx(both)  # whichever came first


def test_the_sound_proves_the_line():
    cause = {"kind": "confirmed", "fault": "roller_worn"}
    heard = {"verdict": "roller_flat", "scores": {"roller_flat": 0.97, "nothing_stands_out": 0.03}}
    gone = {
        "verdict": "nothing_stands_out",
        "scores": {"nothing_stands_out": 0.96, "roller_flat": 0.04},
        "phase": "after",
    }
    still = heard | {"phase": "after"}

    def line(*sounds):
        state = state_of(job(*sounds, causes=[cause]).facts)
        lines = job_answer(state, words_for()).proof.lines
        return next((row.proven, row.by) for row in lines if (row.part, row.act) == ("rollers", "replace"))

    assert line(heard, gone) == (True, "sound")
    assert line(heard, still) == (False, "sound")
    assert line(heard)[0] is None


def test_what_came_later_stands_in_for_what_came_before():
    one = {"id": "0a4d9c52-5a0a-4f43-8f5b-111111111111", "verdict": "wheel_unbalance"}
    two = {"id": "0a4d9c52-5a0a-4f43-8f5b-222222222222", "verdict": "roller_flat", "supersedes": one["id"]}
    answer = job_answer(state_of(job(one, two).facts), words_for())
    assert [row.in_force for row in answer.sounds] == [False, True]
    assert answer.sounds[1].heard.text.startswith("Drum roller")
    withdrawn = {key: value for key, value in two.items() if key != "supersedes"}
    back = job_answer(state_of(job(one, withdrawn={"sounds": [withdrawn]}).facts), words_for())
    assert [(row.in_force, row.withdrawn) for row in back.sounds] == [(True, False), (False, True)]


def test_it_stands_in_the_file_as_it_was_given():
    given = {
        "verdict": "idler_worn", "scores": {"idler_worn": 0.9, "roller_flat": 0.1}, "rates": {"idler": 7.9},
        "phase": "after", "part": "front, low", "seconds": 18.5, "clipped": 0.0,
    }  # fmt: skip
    assert as_document(job(given).document)["sounds"] == [given]
    heard = job(given).facts.sounds[0].heard
    assert heard.source == "idler_worn" and heard.rate_of("idler_worn") == 7.9
    answer = job_answer(state_of(job(given).facts), words_for()).sounds[0]
    assert "7.9 Hz" in answer.heard.text and answer.part == "front, low"


@pytest.mark.parametrize(
    ("sound", "at", "said"),
    [
        ({"verdict": "elephant"}, "sounds[0].verdict", "wheel_unbalance"),
        ({"verdict": "roller_flat", "scores": {"wheel_rub": 1}}, "sounds[0].verdict", "most speaks for"),
        ({"verdict": "roller_flat", "scores": {"roller_flat": 0}}, "sounds[0].scores", "speak for nothing"),
        ({"verdict": "roller_flat", "rates": {"moon": 1}}, "sounds[0].rates", "a part that turns"),
        ({}, "sounds[0]", "verdict"),
    ],
)
def test_a_bad_entry_is_named_by_its_place(sound, at, said):
    with pytest.raises(DocumentError) as raised:
        job(sound)
    assert at in raised.value.path and said in f"{raised.value.path} {raised.value.message}"


def test_the_check_is_judged_from_the_recording():
    with pytest.raises(DocumentError, match="give that under 'sounds'"):
        read_job(RUMBLES | {"findings": [{"check": "rumble_sound", "result": "roller_flat"}]})
    read_job(RUMBLES | {"findings": [{"check": "rumble_sound", "result": "not_possible"}]})


def test_verdicts_in_words_say_the_rate_only_where_it_is_known():
    assert verdict_of({"belt_lump": 2.0}, {"drum": 0.8}).rate_of("belt_lump") == 0.8  # once a turn of the drum
    assert verdict_said("wheel_rub").rate_of("wheel_rub") is None


def test_where_a_belt_of_its_own_drives_the_wheel_its_speed_is_said_to_be_by_ear():
    heard = {"verdict": "wheel_unbalance", "scores": {"wheel_unbalance": 1.0}, "rates": {"wheel": 41.0}}
    drive = {"drive": {"wheel": {"speed_ratio": 1.4}}}
    for layout, more, by_ear in (("belt_driven_blower", {}, True), ("belt_driven_blower", drive, False),
                                 ("rear_shaft_clamp", {}, False)):  # fmt: skip
        machine = {"profile": "full-size-electric", "layout": layout} | more
        told = job_answer(state_of(job(heard, machine=machine).facts), words_for()).sounds[0].heard
        assert any("taken from the sound" in note for note in told.notes) is by_ear
        assert (told.motor_off is None) is by_ear


KNOCKS = {"verdict": "idler_worn", "scores": {"idler_worn": 0.9, "nothing_stands_out": 0.1},
          "stands": {"idler_worn": 2.5, "roller_flat": -1.0}, "rates": {"idler": 9.5}}  # fmt: skip
HEALTHY = KNOCKS | {"healthy": True, "stands": {"idler_worn": 2.3, "roller_flat": -1.2}}


@pytest.mark.parametrize("known", ["of this job", "of another"])
def test_what_a_healthy_machine_of_the_kind_shows_too_accuses_nobody(known):
    more = {"machine": {"profile": "full-size-electric", "sounds_healthy": [HEALTHY["stands"]]}}
    beside = job(KNOCKS, HEALTHY) if known == "of this job" else job(KNOCKS, **more)
    alone, answer = zones(job(KNOCKS)), job_answer(state_of(beside.facts), words_for()).sounds[0].heard
    assert zones(beside)["drive"] < alone["drive"]
    assert (answer.verdict, answer.beside, answer.measured_rates["idler"]) == ("nothing_stands_out", 1, None)
    assert answer.sources[1].source == "idler_worn" and answer.sources[1].score > 0.1  # it may hide in what is usual
    assert any("as much on a healthy machine" in note for note in answer.notes)


def test_a_healthy_machine_is_no_evidence_and_what_stands_out_beside_it_is():
    only = job(HEALTHY)
    assert zones(only) == zones(job())
    told = job_answer(state_of(only.facts), words_for()).sounds[0].heard
    assert told.text.startswith("A healthy one") and told.beside == 0 and told.by_hand == []
    flat = {"verdict": "idler_worn", "scores": {"idler_worn": 0.6, "roller_flat": 0.4},
            "stands": {"idler_worn": 2.4, "roller_flat": 2.2}, "rates": {"idler": 9.5, "roller": 8.1}}  # fmt: skip
    found = job_answer(state_of(job(flat, HEALTHY).facts), words_for()).sounds[0].heard
    assert found.verdict == "roller_flat" and found.told_apart
    assert found.measured_rates["roller"] == 8.1 and found.measured_rates["idler"] is None


def test_it_is_recorded_again_only_where_something_was_complained_of():
    quiet = {"verdict": "nothing_stands_out", "scores": {"nothing_stands_out": 1}}
    before, after = job_answer(state_of(job(quiet, quiet | {"phase": "after"}).facts), words_for()).sounds
    assert "Record again" in before.heard.text and "Record again" not in after.heard.text


@pytest.mark.parametrize(
    ("cause", "heard", "quiet"),
    [
        ("blower_wheel_fouled", {"sounds": "wheel_unbalance"}, {"sounds": "nothing_stands_out"}),
        ("blower_wheel_slipping", {"sounds": "wheel_rub"}, {"sounds": "nothing_stands_out"}),
        ("roller_worn", {"rumble_pace": "several_a_second", "rumble_load": "louder"},
         {"rumble_pace": "nothing", "rumble_load": "nothing"}),
    ],
    ids=["out of balance", "loose", "by ear"],
)  # fmt: skip
def test_what_was_heard_and_is_heard_no_more_is_mended(cause, heard, quiet):
    """A wheel that nobody had heard before may be packed and quiet."""

    def facts(said, phase):
        return [{"verdict": result, "scores": {result: 1}, "phase": phase} if check == "sounds" else
                {"check": check, "result": result, "phase": phase} for check, result in said.items()]  # fmt: skip

    def line(before, after):
        both = facts(before, "before") + facts(after, "after")
        given = {
            "sounds": [row for row in both if "verdict" in row],
            "findings": [row for row in both if "check" in row],
            "causes": [{"kind": "confirmed", "fault": cause}],
        }
        proof = job_answer(state_of(read_job(RUMBLES | given).facts), words_for()).proof
        return proof.lines[0].proven, proof.code

    assert line(heard, quiet) == (True, "shown")
    if cause.startswith("blower"):
        assert line({}, quiet)[0] is None and line(quiet, quiet)[0] is None
    assert line(heard, heard)[0] is False
