"""A private PostgreSQL cluster on loopback: our own folder, a free port, a random password. Debian's stays as it is."""

from __future__ import annotations

import os
import pwd
import secrets
import shutil
import socket
import subprocess
import tempfile
from dataclasses import dataclass
from pathlib import Path

from warm import system
from warm.say import Trouble, phase, quietly

CONFIGURATION = """
listen_addresses = '127.0.0.1'
unix_socket_directories = ''
timezone = 'UTC'
jit = off                        # it compiles for longer than any query of ours runs
random_page_cost = 1.1           # no disk turns any more
# what somebody wrote stands in no log, and no log grows for ever: a file a weekday
log_error_verbosity = terse
log_min_error_statement = panic
logging_collector = on
log_directory = 'log'
log_filename = 'postgresql-%a.log'
log_rotation_age = 1d
log_rotation_size = 0
log_truncate_on_rotation = on
log_file_mode = 0600
"""
#: The file in the data folder that holds it, written at each start: what is better in a later release holds there too.
OURS = "warm.conf"
THROW_AWAY = "fsync = off\nfull_page_writes = off\nsynchronous_commit = off\n"


@dataclass(frozen=True)
class Cluster:
    """One cluster; started or not."""

    folder: Path

    @property
    def data(self) -> Path:
        return self.folder / "data"

    def url(self, port: int) -> str:
        """What Django connects to."""
        return f"postgres://warm:{(self.folder / 'password').read_text().strip()}@127.0.0.1:{port}/warm"


_throw_away: list[Cluster] = []


def free_port() -> int:
    """A port nobody listens on just now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


def _owner() -> list[str]:
    """The words before a command of the database: it refuses to run as root."""
    return ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []


def env_without_pg() -> dict[str, str]:
    """The environment without PGPORT and its like: server and clients would read them."""
    return {key: value for key, value in os.environ.items() if not key.startswith("PG")} | {"LC_ALL": "C.UTF-8"}


def _command(program: Path, *arguments: str, doing: str, remedy: str) -> str:
    return quietly([*_owner(), str(program), *arguments], doing, remedy, env=env_without_pg(), cwd="/")


def make(folder: Path, more: str = "") -> Cluster:
    """The cluster in a folder, made if it is not there yet."""
    cluster, bins = Cluster(folder), system.postgres_bin()
    if (cluster.data / "PG_VERSION").is_file() and (cluster.data / "global" / "pg_control").is_file():
        return cluster
    if cluster.data.exists():
        raise Trouble(
            f"{cluster.data} is a half-made or damaged database. If you have a backup or no jobs in it yet, take it "
            f"away and start again: rm -r {cluster.data}"
        )
    with phase("database cluster"):
        folder.mkdir(parents=True, exist_ok=True)
        fresh = folder / "data.new"  # renamed when whole, so that an interrupted start leaves no half-made one
        shutil.rmtree(fresh, ignore_errors=True)
        password = folder / "password"
        password.touch(mode=0o600)
        password.write_text(secrets.token_urlsafe(24))
        if os.geteuid() == 0:
            owner = pwd.getpwnam("postgres")
            for path in (folder, password):
                os.chown(path, owner.pw_uid, owner.pw_gid)
        _command(bins / "initdb", "-D", str(fresh), "-U", "warm", f"--pwfile={password}", "--auth=scram-sha-256", "-E",
                 "UTF8", "--locale=C.UTF-8", "--no-instructions", doing="making the database",
                 remedy="Look at the lines above.")  # fmt: skip
        with (fresh / "postgresql.conf").open("a") as conf:
            conf.write(f"include_if_exists = '{OURS}'\n{more}")
        fresh.rename(cluster.data)
    return cluster


def running_port(cluster: Cluster) -> int | None:
    """The port a running cluster answers on."""
    try:
        lines = (cluster.data / "postmaster.pid").read_text().splitlines()
        # a killed process that nobody has taken note of still has its number
        state = Path(f"/proc/{int(lines[0])}/stat").read_text().rsplit(")", 1)[1].split()[0]
        return None if state == "Z" else int(lines[3])
    except (OSError, ValueError, IndexError):
        return None


def start(cluster: Cluster, again_on: int | None = None) -> int:
    """Start it if it is not running, on a free port or again on a known one; the port."""
    port = running_port(cluster)
    if port is not None:
        return port
    bins, port = system.postgres_bin(), again_on or free_port()
    _configure(cluster)
    with phase("database"):
        _command(bins / "pg_ctl", "-D", str(cluster.data), "-l", str(cluster.folder / "log"), "-w", "-t", "120", "-o",
                 f"-p {port}", "start", doing="starting the database",
                 remedy=f"Its log is {cluster.folder / 'log'}.")  # fmt: skip
        env = env_without_pg() | {"PGPASSWORD": (cluster.folder / "password").read_text().strip()}
        base = [str(bins / "psql"), "-h", "127.0.0.1", "-p", str(port), "-U", "warm", "-d", "postgres", "-tAc"]
        there = quietly([*base, "SELECT 1 FROM pg_database WHERE datname = 'warm'"], "asking the database", "", env=env)
        if not there.strip():
            quietly([*base, "CREATE DATABASE warm"], "making the database", "", env=env)
    return port


def _configure(cluster: Cluster) -> None:
    """Write our settings, and have them read."""
    (cluster.data / OURS).write_text(CONFIGURATION)
    if os.geteuid() == 0:
        owner = pwd.getpwnam("postgres")
        os.chown(cluster.data / OURS, owner.pw_uid, owner.pw_gid)
    conf = cluster.data / "postgresql.conf"
    include = f"include_if_exists = '{OURS}'"
    said = conf.read_text()
    if include not in said:  # at the end: the defaults above are the maker's
        conf.write_text(f"{said}\n{include}\n")


def stop(cluster: Cluster) -> None:
    """Stop it if it runs."""
    if running_port(cluster) is not None:
        _command(system.postgres_bin() / "pg_ctl", "-D", str(cluster.data), "-m", "fast", "-w", "stop",
                 doing="stopping the database", remedy=f"Its log is {cluster.folder / 'log'}.")  # fmt: skip


def throw_away() -> str:
    """A cluster of its own for tests, gone at the end; its URL."""
    parent = Path("/var/tmp") if os.geteuid() == 0 else Path(tempfile.gettempdir())
    folder = Path(tempfile.mkdtemp(prefix="warm-draft-test-", dir=parent))
    folder.chmod(0o755)
    cluster = make(folder, THROW_AWAY)
    _throw_away.append(cluster)
    return cluster.url(start(cluster))


def stop_throw_away() -> None:
    """Stop and remove what throw_away made."""
    while _throw_away:
        cluster = _throw_away.pop()
        subprocess.run([*_owner(), str(system.postgres_bin() / "pg_ctl"), "-D", str(cluster.data), "-m", "immediate",
                        "stop"], env=env_without_pg(), cwd="/", stdout=subprocess.DEVNULL,
                       stderr=subprocess.DEVNULL)  # fmt: skip
        shutil.rmtree(cluster.folder, ignore_errors=True)
