"""What ./warm promises at the terminal: plain words, nothing half made, nothing of anybody else's touched."""

import os
import shutil
import socket
import subprocess
import sys
from collections import namedtuple
from pathlib import Path

import pytest

from warm import cluster, environment, places, say, serve, system, testing

ROOT = Path(__file__).resolve().parents[2]


def warm(*arguments, **env):
    return subprocess.run(
        [str(ROOT / "warm"), *arguments], capture_output=True, text=True, env={**os.environ, **env}, check=False
    )


def test_help_names_every_verb():
    told = warm("help")
    assert told.returncode == 0
    for verb in ("start", "stop", "test", "bench", "pictures", "demo", "core", "help"):
        assert f"./warm {verb}" in told.stdout


def test_an_unknown_verb_is_answered_with_the_way_to_the_known_ones():
    told = warm("strat")
    assert told.returncode == 2 and "'strat' is not known" in told.stderr and "./warm help" in told.stderr


@pytest.mark.parametrize("port", ["eighty", "0", "70000", ""])
def test_a_port_that_is_none_is_refused(port, tmp_path):
    told = warm("start", WARM_PORT=port, WARM_STATE=str(tmp_path))
    assert told.returncode == 1 and "give a number from 1 to 65535" in told.stderr
    assert "Traceback" not in told.stderr


def test_a_port_in_use_is_said_with_what_to_do(tmp_path):
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        port = str(other.getsockname()[1])
        told = warm("start", WARM_PORT=port, WARM_STATE=str(tmp_path))
    assert told.returncode == 1
    assert f"port {port} is in use by another program" in told.stderr and "WARM_PORT=" in told.stderr
    assert list(tmp_path.iterdir()) == []  # nothing was begun


def test_stop_where_nothing_runs_says_so(tmp_path):
    told = warm("stop", WARM_STATE=str(tmp_path))
    assert told.returncode == 0 and "Nothing of this checkout was running" in told.stdout


@pytest.fixture
def folder(tmp_path_factory):
    """A folder the database's own user may pass through."""
    base = Path("/var/tmp") if os.geteuid() == 0 else tmp_path_factory.mktemp("state")
    made = base / f"warm-draft-tools-{os.getpid()}"
    made.mkdir()
    made.chmod(0o755)
    yield made
    shutil.rmtree(made, ignore_errors=True)


def test_a_cluster_is_made_started_and_stopped_and_an_interrupted_one_leaves_nothing(folder):
    (folder / "pg" / "data.new").mkdir(parents=True)
    (folder / "pg" / "data.new" / "rest of an earlier try").touch()
    made = cluster.make(folder / "pg", cluster.THROW_AWAY)
    assert not (folder / "pg" / "data.new").exists()
    assert (folder / "pg" / "password").stat().st_mode & 0o077 == 0
    port = cluster.start(made)
    assert cluster.start(made) == port == cluster.running_port(made)
    assert made.url(port).startswith("postgres://warm:")
    assert f"include_if_exists = '{cluster.OURS}'" in (made.data / "postgresql.conf").read_text()
    assert "listen_addresses = '127.0.0.1'" in (made.data / cluster.OURS).read_text()
    cluster.stop(made)
    assert cluster.running_port(made) is None
    cluster.stop(made)  # again: nothing to do
    assert cluster.make(folder / "pg") == made  # it is there: nothing is made


def test_a_half_made_cluster_is_said_with_the_folder_to_take_away(tmp_path):
    (tmp_path / "data").mkdir()
    with pytest.raises(say.Trouble, match=f"rm -r {tmp_path / 'data'}"):
        cluster.make(tmp_path)


def test_a_full_disk_is_said_before_anything_is_begun(tmp_path, monkeypatch):
    usage = namedtuple("usage", "total used free")
    monkeypatch.setattr(places.shutil, "disk_usage", lambda _: usage(10, 9, 1))
    with pytest.raises(say.Trouble, match="make room"):
        places.Places(tmp_path / "state").make()


def test_a_folder_that_cannot_be_made_is_said_with_another_way(tmp_path):
    (tmp_path / "file").touch()
    with pytest.raises(say.Trouble, match="WARM_STATE=DIR"):
        places.Places(tmp_path / "file" / "state").make()


def test_two_checkouts_never_share_a_folder(monkeypatch):
    monkeypatch.delenv("WARM_STATE", raising=False)
    here = places.Places.of_app().state
    monkeypatch.setattr(places, "ROOT", Path("/somewhere/else"))
    assert places.Places.of_app().state != here
    monkeypatch.setenv("WARM_STATE", "/tmp/own")
    assert places.Places.of_app().state == Path("/tmp/own")


def test_a_database_of_ones_own_is_used_as_it_is(tmp_path, monkeypatch):
    monkeypatch.setenv("DATABASE_URL", "postgres://them@elsewhere/theirs")
    assert serve.database_url(places.Places(tmp_path)) == "postgres://them@elsewhere/theirs"
    assert list(tmp_path.iterdir()) == []


def test_the_signing_key_is_made_once_and_for_its_owner_only(tmp_path):
    place = places.Places(tmp_path)
    first = serve.secret(place)
    assert serve.secret(place) == first and len(first) > 40
    assert place.secret.stat().st_mode & 0o077 == 0


def test_stop_never_ends_a_process_that_is_not_ours(tmp_path):
    place = places.Places(tmp_path)
    place.running.write_text('{"pid": %d, "port": 1}' % os.getpid())  # noqa: UP031
    assert serve._running(place) is None
    place.running.write_text("rubbish")
    assert serve._running(place) is None


@pytest.mark.parametrize(
    ("command", "words"),
    [
        (["no-such-program"], "no-such-program is not there. Mend it."),
        (["sh", "-c", "echo why >&2; exit 3"], "(?s)doing it did not work:.*why.*Mend it."),
        (["sh", "-c", "echo No space left on device >&2; exit 1"], "(?s)The disk is full"),
    ],
)
def test_a_command_that_fails_is_shown_with_the_remedy(command, words):
    with pytest.raises(say.Trouble, match=words):
        say.quietly(command, "doing it", "Mend it.")


def test_a_phase_says_how_long_it_took_and_when_it_failed(capsys):
    with say.phase("one"):
        pass
    with pytest.raises(ValueError), say.phase("two"):
        raise ValueError
    told = capsys.readouterr()
    assert told.out == "" and " s\n" in told.err and "two … failed" in told.err


def test_nothing_is_installed_twice(monkeypatch):
    monkeypatch.setattr(environment, "quietly", lambda *a, **k: pytest.fail("it is there already"))
    environment.python(dev=True)
    environment.python(dev=False)


def test_a_build_leaves_the_one_an_app_is_serving(tmp_path, monkeypatch):
    def build(command, *_, **__):
        if "--outDir" in command:
            Path(command[command.index("--outDir") + 1]).mkdir(parents=True)

    monkeypatch.setattr(environment, "WEB", tmp_path)
    monkeypatch.setattr(environment, "npm_packages", lambda: "")
    monkeypatch.setattr(environment, "quietly", build)
    monkeypatch.setattr(environment, "ROOT", tmp_path)
    source = tmp_path / "a.ts"
    monkeypatch.setattr(environment, "_sources", lambda: [source])

    def front_end(state):
        source.write_text(str(state))
        return environment.front_end()

    first = front_end(0)
    built = [front_end(state) for state in range(1, environment.BUILDS_KEPT)]
    for age, folder in enumerate([first, *built]):
        os.utime(folder / ".whole", (age, age))
    assert front_end(0) == first and len({first, *built}) == environment.BUILDS_KEPT
    newest = front_end("new")
    assert first.exists() and newest.exists() and not built[0].exists()  # the one unused for longest went


@pytest.mark.parametrize(("told", "version"), [("v20.19.0", (20, 19)), ("v9.1.2", (9, 1)), ("rubbish", (0,))])
def test_node_is_asked_for_its_version(told, version, tmp_path):
    node = tmp_path / "node"
    node.write_text(f"#!/bin/sh\necho {told}\n")
    node.chmod(0o755)
    assert system._node_version(f"{tmp_path}{os.pathsep}{os.environ['PATH']}") == version


def test_no_node_is_version_nothing(tmp_path):
    assert system._node_version(str(tmp_path)) == (0,)


@pytest.mark.parametrize(
    ("code", "said"),
    [
        ("print('so far', flush=True); import time; time.sleep(60)", ("FAILED", "so far", "not at its end after 2 s")),
        ("import sys; print('out'); sys.exit('wrong')", ("FAILED", "out", "wrong")),
        ("print('never shown')", ("ok",)),
    ],
)
def test_a_check_that_fails_or_hangs_tells_what_it_printed_and_holds_up_no_other(code, said, capsys, monkeypatch):
    monkeypatch.setattr(testing, "LONGEST", 2.0)
    report = testing.Report()
    report.run(testing.Check("a check", [sys.executable, "-c", code]), dict(os.environ))
    told = capsys.readouterr().out
    assert all(word in told for word in said) and "never shown" not in told
    assert report.closing() == ("FAILED" in said)
