"""`./warm VERB`."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path

from warm import backup, cluster, environment, say, serve
from warm.places import ROOT, Places

HELP = """\
Warm Draft: measures, finds and proves why a clothes dryer does not get its air.

  ./warm start [--empty]    set up whatever is missing, start, print the address; a fresh one shows the demo, or nothing
  ./warm workshop NAME E-MAIL [LEAD'S NAME] [--language=CODE]  make a workshop; its lead gets a mail to set a password
  ./warm stop               stop what start started
  ./warm test               set up whatever is missing, run every check and test
  ./warm bench [--json] [PART]  measure, each figure beside its limit, as ratios in one run
  ./warm pictures           retake docs/screenshots from the demo data
  ./warm demo [--large]     reset the demo workshop; --large: with 100,000 jobs beside it
  ./warm core VERB FILE…    the core without the web: airway, simulate, diagnose (./warm core --help)
  ./warm words CODE         begin a language, or see how far it is
  ./warm stand-in [JOB.json] [--fault drop_outs]  instruments that are not there, to try the live readings with
  ./warm stand-in --microphone roller_flat  a microphone that is not there, as a WAV that a browser takes for its own
  ./warm workshops          each workshop with what it has and what it takes
  ./warm workshop-out NAME FILE  a whole workshop as a ZIP of open files
  ./warm workshop-in FILE   and in again, where it is not yet
  ./warm backup FILE        all there is in one file, with its hash beside it
  ./warm restore FILE       a backup into an empty database; records held against their hashes
  ./warm help               this

  WARM_PORT=8801            another port for the web (default 8800)
  WARM_STATE=DIR            another folder for database and logs
  DATABASE_URL=postgres://… that server instead of a private one
"""


def _only(*known: str) -> set[str]:
    """The options that were given. Raises Trouble for any other."""
    given = sys.argv[2:]
    for option in given:
        if option not in known:
            raise say.Trouble(f"'{option}' is not known; ./warm {sys.argv[1]} takes {' or '.join(known) or 'nothing'}")
    return set(given)


def _start() -> int:
    return serve.start(Places.of_app(), demo="--empty" not in _only("--empty"))


def _stop() -> int:
    return serve.stop(Places.of_app())


def _test() -> int:
    from warm import testing

    return testing.run(sys.argv[2:])


def _stand_in() -> int:
    from warm import environment

    environment.python(dev=False)
    return environment.run_python(["tools/stand_in.py", *sys.argv[2:]])


def _bench() -> int:
    from warm import testing

    return testing.with_app(["tools/bench.py", *sys.argv[2:]])


def _pictures() -> int:
    from warm import testing

    return testing.with_app(["tools/pictures.py", *sys.argv[2:]])


def _demo() -> int:
    return serve.demo(Places.of_app(), large="--large" in _only("--large"))


def _workshop() -> int:
    if not 2 <= len([given for given in sys.argv[2:] if not given.startswith("--")]) <= 3:
        raise say.Trouble('name workshop and lead: ./warm workshop "Lake Dryer Works" lead@lake.example "Ada Fell"')
    return serve.by_hand(Places.of_app(), "workshop", *sys.argv[2:])


def _workshop_out() -> int:
    if len(sys.argv) != 4:
        raise say.Trouble('name workshop and file: ./warm workshop-out "Lake Dryer Works" lake.zip')
    return serve.by_hand(Places.of_app(), "workshop_out", sys.argv[2], str(Path(sys.argv[3]).resolve()))


def _workshop_in() -> int:
    return serve.by_hand(Places.of_app(), "workshop_in", str(Path(_file()).resolve()))


def _workshops() -> int:
    return serve.by_hand(Places.of_app(), "workshops")


def _file() -> str:
    if len(sys.argv) != 3:
        raise say.Trouble(f"name one file: ./warm {sys.argv[1]} FILE")
    return sys.argv[2]


def _backup() -> int:
    return backup.backup(Places.of_app(), _file())


def _restore() -> int:
    return backup.restore(Places.of_app(), _file())


def _core() -> int:
    environment.python(dev=False)
    return environment.run_python(["-m", "warmdraft", *sys.argv[2:]], OPENBLAS_NUM_THREADS="1")


def _words() -> int:
    """A language's words: the core's as tables, the screens' as a catalogue; begun where there are none."""
    if len(sys.argv) != 3:
        raise say.Trouble("name one language by its code: ./warm words de")
    environment.python(dev=False)
    status = environment.run_python(["-m", "warmdraft.catalogues", sys.argv[2], "core/warmdraft/data/words"])
    return status or environment.screens_words(sys.argv[2])


def _help() -> int:
    print(HELP, end="")
    return 0


VERBS: dict[str, Callable[[], int]] = {
    "start": _start,
    "stop": _stop,
    "test": _test,
    "bench": _bench,
    "stand-in": _stand_in,
    "pictures": _pictures,
    "demo": _demo,
    "workshop": _workshop,
    "workshop-out": _workshop_out,
    "workshop-in": _workshop_in,
    "workshops": _workshops,
    "backup": _backup,
    "restore": _restore,
    "core": _core,
    "words": _words,
    "help": _help,
    "--help": _help,
    "-h": _help,
}


def main() -> int:
    verb = sys.argv[1] if len(sys.argv) > 1 else "help"
    if verb not in VERBS:
        print(f"warm: '{verb}' is not known; ./warm help tells what is", file=sys.stderr)
        return 2
    sys.argv[2:] = [str(Path(a).resolve()) if verb in ("backup", "restore") else a for a in sys.argv[2:]]
    os.chdir(ROOT)
    try:
        return VERBS[verb]()
    except say.Trouble as trouble:
        print(f"\nwarm: {trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130
    finally:
        cluster.stop_throw_away()


if __name__ == "__main__":
    sys.exit(main())
