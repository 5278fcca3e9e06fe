"""`python -m warmdraft VERB FILE…`: the core's command line.

One compact JSON document a line on stdout per file, in the order given. An invalid file gives one line on stderr, the
others are still done, and the exit status is 2.
"""

from __future__ import annotations

import argparse
import io
import multiprocessing
import sys
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache, partial
from pathlib import Path
from typing import Any, BinaryIO, NoReturn, TypeVar

import numpy as np
from pydantic_core import to_json

from warmdraft.answers import (
    airway_answer,
    balance_answer,
    counts_of,
    cut_answer,
    day_answer,
    diagnose_answer,
    drill_answer,
    dry_answer,
    learn_answer,
    match_answer,
    meter_answer,
    plan_answer,
    prove_answer,
    route_answer,
    together_answer,
    trace_csv,
    upkeep_document_answer,
    vent_answer,
    wheel_answer,
    whole_answer,
    work_answer,
)
from warmdraft.checks import Taught
from warmdraft.errors import DocumentError
from warmdraft.jobfile import Job, parse_json, read_job, simulated_job
from warmdraft.jobfile.learning_schema import counts_document
from warmdraft.jobfile.simulate import as_document
from warmdraft.learning import lessons_of
from warmdraft.words import words_for

_Read = TypeVar("_Read")
#: From so many files on the work is shared among processes, so many files at a time.
_MANY, _CHUNK = 64, 16
EXAMPLES = """\
examples:
  python -m warmdraft airway job.json             operating point, pressure profile and predicted readings
  python -m warmdraft simulate --seed 7 job.json  the job with readings drawn from the model
  python -m warmdraft diagnose job.json           the probable cause, and the check most worth doing next
  python -m warmdraft job job.json                all that the screen shows: verdict, stages, steps, tray, gate, proof
  python -m warmdraft work --cause lint_duct_packed job.json
                                                  everything there is to do, and the one way in to it
  python -m warmdraft dry --csv run.csv job.json  how long a load takes, what it costs, which limit trips
  python -m warmdraft vent run.json               a vent run: its length, drops, air speed, and what it breaks
  python -m warmdraft meter tests.json            what electrical readings mean
  python -m warmdraft plan --reach blower_wheel,lint_duct layout.json
                                                  the quickest way in and back, proven
  python -m warmdraft sound --machine job.json rumble.wav
                                                  which part rumbles
  python -m warmdraft balance runs.json           what takes a wheel's unbalance away, and where
  python -m warmdraft wheel wheel.json            which way it comes off its shaft, from where one kneels
  python -m warmdraft match parts.json            whether a new part is the old one's like
  python -m warmdraft route route.json            the new run with the least pressure drop on a grid, proven
  python -m warmdraft cut cut.json                which standard lengths to buy, and how to cut them
  python -m warmdraft prove job.json              whether the work is shown to have helped, and what would settle it
  python -m warmdraft upkeep machine.json         when a machine is due again, by its own flows and its kind's
  python -m warmdraft learn job.json              what a job counts, once it is known what it was
  python -m warmdraft learn --together job-*.json > counts.json; python -m warmdraft learn counts.json
                                                  what many jobs teach: which causes and looks are likelier than we say
  python -m warmdraft diagnose --taught counts.json job.json
                                                  the same verdict by what those jobs teach
  python -m warmdraft day tomorrow.json           which van goes where and when, and how likely it is late
  python -m warmdraft drill --seed 3 --ask outlet_flow,hood_air job.json
                                                  what a machine with the fault that is supposed gives when it is asked
  python -m warmdraft drill --seed 3 job.json     how it went, and what would have been better on that machine
  cat job.json | python -m warmdraft diagnose -   from standard input
"""


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        self.exit(2, f"warmdraft: {message}; see python -m warmdraft --help\n")


def _names(text: str) -> tuple[str, ...]:
    names = tuple(name.strip() for name in text.split(","))
    if not all(names):
        raise argparse.ArgumentTypeError(f"{text!r} has an empty name; give names with commas between")
    return names


def _arguments(argv: list[str]) -> argparse.Namespace:
    parser = _Parser(
        prog="python -m warmdraft",
        description="The physics and the judgement of a dryer that does not get its air.",
        epilog=EXAMPLES,
        formatter_class=argparse.RawDescriptionHelpFormatter,
        allow_abbrev=False,
    )
    parser.add_argument("verb", choices=sorted({**VERBS, **RECORDINGS}), help="what to do with each file")
    parser.add_argument("files", nargs="+", metavar="FILE", help="files; - reads standard input")
    parser.add_argument("--pretty", action="store_true", help="indent the answers for people")
    parser.add_argument("--seed", type=int, default=0, metavar="N", help="simulate, drill: the seed (default 0)")
    plan = parser.add_argument_group("plan")
    plan.add_argument("--reach", metavar="PART[,PART…]", type=_names, help="the parts to reach")
    plan.add_argument("--opened", metavar="ID[,ID…]", type=_names, default=(), help="what is off already")
    plan.add_argument("--avoid", metavar="ID[,ID…]", type=_names, default=(), help="operations not to use")
    plan.add_argument("--people", metavar="N", type=int, default=0, help="how many there are (default: enough)")
    parser.add_argument("--cause", metavar="FAULT[,FAULT]", type=_names, default=(), help="work: the cause to go by")
    parser.add_argument("--machine", metavar="JOB", help="sound: a job whose machine it is (default: a usual one)")
    parser.add_argument("--curves", action="store_true", help="sound: also what is drawn of the recording")
    parser.add_argument("--ask", metavar="CHECK[,CHECK…]", type=_names, default=(), help="drill: what these give")
    parser.add_argument("--together", action="store_true", help="learn: what all files count, as one document")
    parser.add_argument("--taught", metavar="COUNTS", help="diagnose, job, prove: go by what these counts teach")
    parser.add_argument("--csv", metavar="FILE", help="dry: write the trace of the run there")
    options = parser.parse_intermixed_args(argv)
    if options.csv and (options.verb != "dry" or len(options.files) > 1):
        parser.error("argument --csv: it takes the trace of one run; give one file to dry")
    if options.verb == "plan" and not options.reach:
        parser.error("argument --reach: is missing; name the parts to reach, such as --reach blower_wheel,lint_duct")
    if options.verb != "plan" and (options.reach or options.opened or options.avoid or options.people):
        parser.error(f"arguments --reach, --opened, --avoid, --people are for plan; leave them out with {options.verb}")
    if options.verb != "work" and options.cause:
        parser.error(f"argument --cause: it is for work; leave it out with {options.verb}")
    if options.verb != "sound" and (options.machine or options.curves):
        parser.error(f"arguments --machine, --curves are for sound; leave them out with {options.verb}")
    if options.verb != "drill" and options.ask:
        parser.error(f"argument --ask: it is for drill; leave it out with {options.verb}")
    if options.verb != "learn" and options.together:
        parser.error(f"argument --together: it is for learn; leave it out with {options.verb}")
    if options.verb not in ("diagnose", "job", "prove") and options.taught:
        parser.error(f"argument --taught: it is for diagnose, job and prove; leave it out with {options.verb}")
    if options.people < 0:
        parser.error(f"argument --people: {options.people} is negative; give 1 or more")
    if options.seed < 0:
        parser.error(f"argument --seed: {options.seed} is negative; give 0 or more")
    return options


def _airway(value: Any, options: argparse.Namespace) -> Any:
    return airway_answer(read_job(value))


def _simulate(value: Any, options: argparse.Namespace) -> Any:
    return as_document(simulated_job(read_job(value), np.random.default_rng(options.seed)))


def _taught_job(value: Any, options: argparse.Namespace) -> Job:
    """A job, judged by what the counts that were named teach."""
    job = read_job(value)
    return replace(job, facts=replace(job.facts, taught=_taught_by(options.taught))) if options.taught else job


@cache
def _taught_by(name: str) -> Taught:
    """What the counts of a file teach; what is wrong with them is said of that file."""
    return lessons_of(_named_with("--taught", name, counts_of)).taught


def _learn(value: Any, options: argparse.Namespace) -> Any:
    return counts_document(counts_of(value)) if options.together else learn_answer(value, words_for())


def _diagnose(value: Any, options: argparse.Namespace) -> Any:
    return diagnose_answer(_taught_job(value, options), words_for())


def _job(value: Any, options: argparse.Namespace) -> Any:
    return whole_answer(_taught_job(value, options), words_for())


def _work(value: Any, options: argparse.Namespace) -> Any:
    return work_answer(read_job(value), words_for(), options.cause)


def _prove(value: Any, options: argparse.Namespace) -> Any:
    return prove_answer(_taught_job(value, options), words_for())


def _dry(value: Any, options: argparse.Namespace) -> Any:
    answer, run = dry_answer(read_job(value))
    if options.csv:
        try:
            Path(options.csv).write_text(trace_csv(run), encoding="utf-8")
        except OSError as error:
            reason = (error.strerror or "cannot be written").lower()
            raise DocumentError("$", f"the trace cannot be written to {options.csv} ({reason})") from None
    return answer


def _vent(value: Any, options: argparse.Namespace) -> Any:
    return vent_answer(value, words_for())


def _meter(value: Any, options: argparse.Namespace) -> Any:
    return meter_answer(value, words_for())


def _balance(value: Any, options: argparse.Namespace) -> Any:
    return balance_answer(value, words_for())


def _wheel(value: Any, options: argparse.Namespace) -> Any:
    return wheel_answer(value, words_for())


def _match(value: Any, options: argparse.Namespace) -> Any:
    return match_answer(value, words_for())


def _route(value: Any, options: argparse.Namespace) -> Any:
    return route_answer(value)


def _cut(value: Any, options: argparse.Namespace) -> Any:
    return cut_answer(value)


def _upkeep(value: Any, options: argparse.Namespace) -> Any:
    return upkeep_document_answer(value, words_for())


def _drill(value: Any, options: argparse.Namespace) -> Any:
    return drill_answer(value, words_for(), options.seed, options.ask)


def _day(value: Any, options: argparse.Namespace) -> Any:
    return day_answer(value)


def _plan(value: Any, options: argparse.Namespace) -> Any:
    return plan_answer(value, options.reach, frozenset(options.opened), frozenset(options.avoid), options.people)


VERBS: dict[str, Callable[[Any, argparse.Namespace], Any]] = {
    "airway": _airway,
    "simulate": _simulate,
    "diagnose": _diagnose,
    "job": _job,
    "prove": _prove,
    "work": _work,
    "dry": _dry,
    "vent": _vent,
    "meter": _meter,
    "plan": _plan,
    "balance": _balance,
    "wheel": _wheel,
    "match": _match,
    "route": _route,
    "cut": _cut,
    "upkeep": _upkeep,
    "learn": _learn,
    "day": _day,
    "drill": _drill,
}


def _sound(file: BinaryIO, options: argparse.Namespace) -> Any:
    # imported where it is wanted: the signal library takes longer to come in than most verbs take in all
    from warmdraft.answers.sound import drawn_sound_answer, sound_answer
    from warmdraft.jobfile.recording import read_recording
    from warmdraft.sound.curves import curves_of
    from warmdraft.sound.verdict import judge_sound
    from warmdraft.work import Sounded

    job = _named_with("--machine", options.machine, read_job) if options.machine else read_job(_NO_FACTS)
    heard = read_recording(file)
    judged = judge_sound(heard, job.machine.drive, job.facts.wheel_known)
    fact = Sounded(phase="before", heard=judged.verdict, seconds=heard.seconds, clipped=heard.clipped)
    answer = sound_answer(fact, job.facts, words_for())
    return drawn_sound_answer(answer, curves_of(heard, judged)) if options.curves else answer


def _named_with(option: str, name: str, read: Callable[[Any], _Read]) -> _Read:
    """The file that an option names, as it is read; what is wrong with it is said of that file."""
    try:
        return read(_document(Path(name)))
    except OSError as error:
        raise DocumentError("$", f"{option} {name}: {_unread(error)}") from None
    except DocumentError as error:
        raise DocumentError(error.path, f"{option} {name}: {error.message}") from None


#: Verbs that read something else than a document.
RECORDINGS: dict[str, Callable[[BinaryIO, argparse.Namespace], Any]] = {"sound": _sound}
_NO_FACTS = {"format": "warm-draft/job", "version": 1}


def _unread(error: OSError) -> str:
    return f"cannot be read ({(error.strerror or 'no reason given').lower()}); give the path of a file"


def _source(name: str) -> bytes | Path:
    """What is to be read: standard input is, here and now, for those who share the work have none."""
    return sys.stdin.buffer.read() if name == "-" else Path(name)


def _opened(source: bytes | Path) -> BinaryIO:
    return io.BytesIO(source) if isinstance(source, bytes) else source.open("rb")


def _document(source: bytes | Path) -> Any:
    with _opened(source) as file:
        return parse_json(file.read())


def _answer(source: bytes | Path, options: argparse.Namespace) -> str | DocumentError:
    try:
        if options.verb in RECORDINGS:  # ten minutes of sound are never whole in memory
            with _opened(source) as file:
                answer = RECORDINGS[options.verb](file, options)
        else:
            answer = VERBS[options.verb](_document(source), options)
    except OSError as error:
        return DocumentError("$", _unread(error))
    except DocumentError as error:
        return DocumentError(error.path, error.message)
    return _json(answer, options)


def _json(answer: Any, options: argparse.Namespace) -> str:
    return to_json(answer, indent=2 if options.pretty else None, inf_nan_mode="null").decode()


def _answers(options: argparse.Namespace) -> Iterator[str | DocumentError]:
    sources = [_source(name) for name in options.files]
    first, rest = sources[:1], sources[1:]
    yield from (_answer(source, options) for source in first)  # builds the model that most of them share
    if len(rest) < _MANY:
        yield from (_answer(source, options) for source in rest)
        return
    with multiprocessing.get_context("fork").Pool() as pool:  # a child has what its parent has built
        yield from pool.imap(partial(_answer, options=options), rest, chunksize=_CHUNK)


def main(argv: list[str] | None = None) -> int:
    """Run one verb over files; the exit status."""
    options = _arguments(sys.argv[1:] if argv is None else argv)
    status = 0
    gathered = []
    for name, answer in zip(options.files, _answers(options), strict=True):
        if isinstance(answer, DocumentError):
            print(f"{name}: {answer}", file=sys.stderr)
            status = 2
        elif options.together:
            gathered.append(counts_of(parse_json(answer.encode())))
        else:
            print(answer)
    if options.together:
        print(_json(together_answer(gathered), options))
    return status


if __name__ == "__main__":
    sys.exit(main())
