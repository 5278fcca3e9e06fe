"""Locked Python and npm packages, and the built front end: made once, made again only when their files change."""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

from warm import system
from warm.places import PYTHON, ROOT, VENV, WEB
from warm.say import phase, quietly

UV = "uv==0.13.9"
#: More than may be in use at once: an app that runs, a test run, pictures.
BUILDS_KEPT = 6
_AGAIN = "Look at the lines above; with the network back, start again."


def python(dev: bool) -> None:
    """The virtual environment with every locked package; dev: with the tools for tests."""
    lock = ROOT / ("requirements-dev.lock" if dev else "requirements.lock")
    stamp = VENV / ("installed-dev.lock" if dev else "installed.lock")
    if stamp.is_file() and stamp.read_bytes() == lock.read_bytes():
        return
    if not PYTHON.exists() or not (VENV / "bin" / "uv").exists():
        with phase("Python environment"):
            quietly([sys.executable, "-m", "venv", "--clear", str(VENV)], "making the Python environment",
                    "As root: apt-get install python3-venv")  # fmt: skip
            quietly([str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check", UV], "installing uv",
                    _AGAIN)  # fmt: skip
    with phase("Python packages"):
        quietly([str(VENV / "bin" / "uv"), "pip", "install", "-q", "--require-hashes", "--python", str(PYTHON), "-r",
                 str(lock)], "installing Python packages", _AGAIN)  # fmt: skip
    stamp.write_bytes(lock.read_bytes())
    if dev:  # it holds all that running needs
        (VENV / "installed.lock").write_bytes((ROOT / "requirements.lock").read_bytes())


def npm_packages() -> str:
    """node_modules as locked; returns the PATH with Node."""
    path = system.node_path()
    stamp, wanted = WEB / "node_modules" / ".warm-stamp", _digest([WEB / "package-lock.json", WEB / ".npmrc"])
    if not (stamp.is_file() and stamp.read_text() == wanted):
        with phase("npm packages"):
            quietly(["npm", "ci", "--ignore-scripts"], "installing npm packages", _AGAIN, env=_with(path), cwd=str(WEB))
        stamp.write_text(wanted)
    return path


def front_end() -> Path:
    """The folder with the front end built from the sources as they are.

    Each state of the sources has a folder of its own below web/dist, so that a build for a test run never takes the
    files from under an app that runs.
    """
    path = npm_packages()
    built = WEB / "dist" / _digest(_sources())[:12]
    whole = built / ".whole"
    if whole.is_file():
        whole.touch()
        return built
    with phase("front end"):
        quietly(["npm", "run", "build", "--", "--outDir", str(built), "--emptyOutDir"], "building the front end",
                "Mend it and start again.", env=_with(path), cwd=str(WEB))  # fmt: skip
        quietly([str(PYTHON), "-m", "whitenoise.compress", "-q", str(built)], "compressing the front end", _AGAIN)
        whole.touch()
    _drop_old_builds(built.parent)
    return built


def screens_words(language: str) -> int:
    """Draw the sentences of the screens out into a language's catalogue, begun where there is none; the status."""
    path = npm_packages()
    (WEB / "src" / "languages" / f"{language}.po").touch()
    return subprocess.run(["npm", "run", "--silent", "words"], env=_with(path), cwd=WEB).returncode


def _drop_old_builds(folder: Path) -> None:
    def used(build: Path) -> float:
        whole = build / ".whole"
        return whole.stat().st_mtime if whole.is_file() else 0.0

    for old in sorted((entry for entry in folder.iterdir() if entry.is_dir()), key=used)[:-BUILDS_KEPT]:
        shutil.rmtree(old, ignore_errors=True)


def _sources() -> Iterable[Path]:
    yield from (p for p in sorted((WEB / "src").rglob("*")) if p.is_file())
    yield from sorted((WEB / "public").rglob("*.*"))
    yield from (
        WEB / name for name in ("index.html", "package-lock.json", "vite.config.ts", "tsconfig.json", "openapi.json")
    )


def _digest(files: Iterable[Path]) -> str:
    total = hashlib.sha256()
    for file in files:
        total.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes() + b"\0")
    return total.hexdigest()


def _with(path: str) -> dict[str, str]:
    return {**os.environ, "PATH": path}


def python_env(**more: str) -> dict[str, str]:
    """Environment in which our Python runs."""
    paths = os.pathsep.join(str(ROOT / part) for part in ("core", "server"))
    return {
        **os.environ,
        "PYTHONPATH": paths,
        "PATH": f"{VENV / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}",
        **more,
    }


def run_python(arguments: list[str], **more: str) -> int:
    """Run our Python; the exit status."""
    return subprocess.run([str(PYTHON), *arguments], env=python_env(**more), cwd=ROOT).returncode


def found(program: str) -> bool:
    """Whether a program is on PATH."""
    return shutil.which(program) is not None
