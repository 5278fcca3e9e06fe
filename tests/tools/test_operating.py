"""What whoever runs it relies on: one start is one start, what dies comes back, logs stay small and name nobody."""

import os
import signal
import stat
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest

from warm import backup, serve
from warm.places import ROOT, Places
from warm.say import Trouble

WEB_LIKE = "import time, sys; print('up', flush=True); time.sleep(float(sys.argv[1])); print('x' * 900, flush=True)"


def kept(log: Path, seconds: str, script: str = WEB_LIKE) -> subprocess.Popen:
    return subprocess.Popen(
        [sys.executable, "-m", "warm.keep", str(log), sys.executable, "-c", script, seconds],
        env=os.environ | {"PYTHONPATH": str(ROOT / "tools")}, start_new_session=True,
    )  # fmt: skip


def until(said, patience=15.0):
    ends = time.monotonic() + patience
    while not said():
        assert time.monotonic() < ends
        time.sleep(0.05)


def test_a_process_that_dies_comes_back_and_term_ends_both(tmp_path):
    log = tmp_path / "web.log"
    keeper = kept(log, "60")
    try:
        until(lambda: log.exists() and log.read_text().count("up") == 1)
        time.sleep(3.2)  # it has come up
        (first,) = serve.children(keeper.pid)
        os.kill(first, signal.SIGKILL)
        until(lambda: log.read_text().count("up") == 2)
        assert "ended with -9, started again" in log.read_text()
        (second,) = serve.children(keeper.pid)
        assert second != first
        keeper.terminate()
        assert keeper.wait(timeout=10) is not None and not Path(f"/proc/{second}").exists()
        assert stat.S_IMODE(log.stat().st_mode) == 0o600
    finally:
        keeper.kill()


def test_a_process_that_does_not_come_up_is_said_at_once(tmp_path):
    keeper = kept(tmp_path / "web.log", "0", "import sys; print('WARM_MAIL is not set'); sys.exit(3)")
    assert keeper.wait(timeout=20) == 3
    assert "WARM_MAIL is not set" in (tmp_path / "web.log").read_text()


def test_a_log_is_put_aside_when_it_is_large(tmp_path, monkeypatch):
    from warm import keep

    monkeypatch.setattr(keep, "MOST_BYTES", 500)
    many = "for i in range(40): print('a line of the log, number', i, flush=True)"
    keeper = keep._Keeper(str(tmp_path / "web.log"), [sys.executable, "-c", many])
    assert keeper.run() == 0
    sizes = [file.stat().st_size for file in tmp_path.glob("web.log*")]
    assert len(sizes) >= 2 and max(sizes) <= 500


def test_two_starts_at_once_are_one(tmp_path, monkeypatch, capsys):
    """The second waits for the first and finds it running."""
    places = Places(tmp_path / "state")
    launched = []

    def launch(*_):
        time.sleep(0.3)
        launched.append(1)
        return os.getpid()

    monkeypatch.setattr(serve, "prepare", lambda *_: ("url", "key", tmp_path))
    monkeypatch.setattr(serve, "launch", launch)
    monkeypatch.setattr(serve, "launch_worker", lambda *_: os.getpid())
    monkeypatch.setattr(serve, "manage", lambda *_, **__: "nobody")
    monkeypatch.setattr(serve, "_alive", lambda pid: pid == os.getpid())
    monkeypatch.setattr(serve, "_listening", lambda _: False)
    threads = [threading.Thread(target=serve.start, args=(places,)) for _ in range(3)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    told = capsys.readouterr().out
    assert launched == [1] and told.count("Already running") == 2
    assert "No workshop yet" in told and "Demo sign-in" not in told


@pytest.mark.parametrize(("https", "demo", "laid_out"), [(None, True, True), ("1", True, False), (None, False, False)])
def test_the_demo_is_laid_out_where_it_is_wanted_and_never_beside_tls(tmp_path, monkeypatch, https, demo, laid_out):
    told = []
    monkeypatch.setattr(serve.environment, "python", lambda **_: None)
    monkeypatch.setattr(serve.environment, "front_end", lambda: tmp_path)
    monkeypatch.setattr(serve, "database_url", lambda _: "url")
    monkeypatch.setattr(serve, "manage", lambda _url, _key, *said, **_: told.append(said[0]))
    monkeypatch.setenv("WARM_HTTPS", https) if https else monkeypatch.delenv("WARM_HTTPS", raising=False)
    serve.prepare(Places(tmp_path / "state"), demo)
    assert ("demo" in told) == laid_out and "migrate" in told


def test_a_folder_of_state_is_its_owners_alone(tmp_path):
    places = Places(tmp_path / "state")
    places.make()
    (places.logs / "web.log").write_text("x")
    (places.logs / "web.log").chmod(0o644)
    places.make()
    serve.secret(places)
    modes = {path.name: stat.S_IMODE(path.stat().st_mode) for path in
             (places.state, places.logs, places.mail, places.secret, places.logs / "web.log")}  # fmt: skip
    traversed = 0o711 if os.geteuid() == 0 else 0o700
    assert modes == {"state": traversed, "logs": 0o700, "mail": 0o700, "secret": 0o600, "web.log": 0o600}


def test_figures_lie_in_memory_where_that_is_a_file_system(tmp_path):
    found = serve._figures(tmp_path)
    assert found.parent == (Path("/dev/shm") if os.access("/dev/shm", os.W_OK) else tmp_path)
    assert serve._figures(tmp_path) == found != serve._figures(tmp_path / "other")


def _logged(places: Places, wanted: str) -> str:
    """What the database's log says, once it has said this: a process of its own writes it, a while later."""
    until = time.monotonic() + 20
    while True:
        said = "".join(file.read_text() for file in (places.cluster / "data" / "log").glob("*.log"))
        if wanted in said or time.monotonic() > until:
            return said
        time.sleep(0.1)


@pytest.mark.slow  # two clusters
def test_a_copy_sends_no_mails_and_the_databases_log_says_nothing_of_anybody(folder, monkeypatch, capsys):
    import psycopg

    monkeypatch.delenv("DATABASE_URL", raising=False)
    monkeypatch.delenv("DJANGO_SETTINGS_MODULE", raising=False)
    places = Places(folder / "one")
    places.make()
    url, key = serve.database_url(places), serve.secret(places)
    serve.manage(url, key, "migrate", "--no-input", doing="making the tables")
    serve.manage(url, key, "workshop", "Lake Works", "lead@lake.example", doing="making a workshop")
    with psycopg.connect(url, autocommit=True) as line:
        assert line.execute("SELECT count(*) FROM procrastinate_jobs WHERE status = 'todo'").fetchone() == (1,)
        with pytest.raises(psycopg.errors.UniqueViolation):
            line.execute("INSERT INTO people_person SELECT * FROM people_person WHERE email = 'lead@lake.example'")
    said = _logged(places, "duplicate key")
    assert "duplicate key" in said and "lead@lake.example" not in said
    file = folder / "all.dump"
    backup.backup(places, str(file))
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    other = Places(folder / "two")
    backup.restore(other, str(file))
    assert "1 mails and other jobs that waited" in capsys.readouterr().out
    with psycopg.connect(serve.database_url(other)) as line:
        assert line.execute("SELECT count(*) FROM procrastinate_jobs WHERE status = 'todo'").fetchone() == (0,)
    (folder / "all.dump.sha256").write_text("")
    with pytest.raises(Trouble, match=r"holds no SHA-256"):
        backup.restore(other, str(file))


def test_a_worker_without_a_mail_server_and_a_key_that_is_guessed_do_not_start():
    env = {"DATABASE_URL": "postgres://a@127.0.0.1/b", "PATH": "/usr/bin", "PYTHONPATH": "core:server"}
    for more, said in (({"WARM_SECRET_KEY": "k" * 40}, "WARM_MAIL is not set"),
                       ({"WARM_SECRET_KEY": "x", "WARM_MAIL": "/tmp"}, "WARM_SECRET_KEY has 1 char")):  # fmt: skip
        done = subprocess.run([sys.executable, "server/manage.py", "work"], env=env | more, capture_output=True,
                              text=True, cwd=ROOT)  # fmt: skip
        assert done.returncode != 0 and said in done.stderr
