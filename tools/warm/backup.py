"""All there is, in one file: the database holds jobs, records, people and photos. Checked by hash on the way back."""

from __future__ import annotations

import hashlib
from pathlib import Path
from urllib.parse import unquote, urlsplit

from warm import cluster, environment, serve, system
from warm.places import Places
from warm.say import Trouble, phase, quietly

_CHUNK = 1 << 20


def _client(url: str) -> dict[str, str]:
    """The environment a PostgreSQL client finds its server by: no password on a command line."""
    parts = urlsplit(url)
    return cluster.env_without_pg() | {
        "PGHOST": parts.hostname or "127.0.0.1",
        "PGPORT": str(parts.port or 5432),
        "PGUSER": unquote(parts.username or ""),
        "PGPASSWORD": unquote(parts.password or ""),
        "PGDATABASE": unquote(parts.path.lstrip("/")),
    }


def _digest(file: Path) -> str:
    total = hashlib.sha256()
    with file.open("rb") as source:
        while part := source.read(_CHUNK):
            total.update(part)
    return total.hexdigest()


def _beside(file: Path) -> Path:
    return file.with_name(file.name + ".sha256")


def backup(places: Places, target: str) -> int:
    """Write the whole database to a file, whole or not at all, with its hash beside it. The app may run on."""
    file = Path(target).resolve()
    if not file.parent.is_dir():
        raise Trouble(f"{file.parent} is no folder; make it first, or name another file")
    places.make()
    environment.python(dev=False)
    url, part = serve.database_url(places), file.with_name(file.name + ".part")
    with phase("backup"):
        try:
            part.unlink(missing_ok=True)
            part.touch(mode=0o600)  # all there is of everybody: its owner's alone
            quietly([str(system.postgres_bin() / "pg_dump"), "--format=custom", "--no-owner", "--no-privileges",
                     f"--file={part}"], "the backup", "Nothing was written.", env=_client(url))  # fmt: skip
            digest = _digest(part)
            part.replace(file)
        finally:
            part.unlink(missing_ok=True)
        _beside(file).write_text(f"{digest}  {file.name}\n")
    print(f"{file}  {file.stat().st_size / 1e6:.1f} MB  sha256 {digest}")
    return 0


def restore(places: Places, source: str) -> int:
    """Read a backup into an empty database, bring its tables up to date, and hold every record against its hash."""
    file = Path(source).resolve()
    if not file.is_file():
        raise Trouble(f"{file} is not there")
    told = None
    if _beside(file).is_file():
        told = next(iter(_beside(file).read_text().split()), "")
        if len(told) != 64:
            raise Trouble(f"{_beside(file)} holds no SHA-256; write the backup's there, or take the file away")
    digest = _digest(file)
    if told is not None and told != digest:
        raise Trouble(f"{file} is not what was written: sha256 {digest}, {told} beside it. Take another backup.")
    places.make()
    environment.python(dev=False)
    url = serve.database_url(places)
    env = _client(url)
    bins = system.postgres_bin()
    tables = quietly([str(bins / "psql"), "-tAc", "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'"],
                     "asking the database", "Is it running?", env=env)  # fmt: skip
    if tables.strip() != "0":
        raise Trouble(
            "the database is not empty and is left as it is. Restore into a new one: WARM_STATE=DIR ./warm restore "
            f"{source}, or DATABASE_URL=postgres://… of an empty database"
        )
    with phase("restore"):
        quietly([str(bins / "pg_restore"), "--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction",
                 "--dbname", env["PGDATABASE"], str(file)], "the restore", "The database is empty as before.",
                env=env)  # fmt: skip
    key = serve.secret(places)
    with phase("tables up to date"):
        serve.manage(url, key, "migrate", "--no-input", doing="bringing the tables up to date")
    # what the copied server was about to send is that server's to send
    waiting = quietly([str(bins / "psql"), "-tAc", "WITH gone AS (DELETE FROM procrastinate_jobs WHERE status IN "
                       "('todo', 'doing') RETURNING 1) SELECT count(*) FROM gone"],
                      "emptying the queue", "", env=env).strip()  # fmt: skip
    if waiting != "0":
        print(f"{waiting} mails and other jobs that waited when it was written are not done from here.")
    print(serve.manage(url, key, "check_records", doing="holding the records against their hashes").strip())
    if told is None:
        print(f"No {_beside(file).name} lay beside it: the file itself was not checked (sha256 {digest}).")
    return 0
