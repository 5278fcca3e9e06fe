"""A language that marks every word, to see what cannot be translated: made the way any language is added."""

import re
import shutil
import subprocess
from pathlib import Path

from warmdraft import tables
from warmdraft.catalogues import as_toml, said_tables, to_say

ROOT = Path(__file__).resolve().parent.parent
#: What the screens' catalogues call it, too.
PSEUDO = "qps"
#: A letter of another script each, so that what is left in ours was never asked for.
_MARKED = str.maketrans(
    "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ", "абцдефгхийклмнопярстувшхузАБЦДЕФГХИЙКЛМНОПЯРСТУВШХУЗ"
)
_PLACE = re.compile(r"(\{[^}]*\})")


def marked(text: str) -> str:
    """A text in the pseudo-language; the places to fill in stay as they are.

    >>> marked("more: {minutes} min")
    'море: {minutes} мин'
    """
    return "".join(part if _PLACE.fullmatch(part) else part.translate(_MARKED) for part in _PLACE.split(text))


def core_words(folder: Path) -> Path:
    """The core's words in the pseudo-language, below a folder that WARM_WORDS may name."""
    for name in said_tables():
        file = folder / PSEUDO / f"{name}.toml"
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(as_toml(to_say(name, marked)), encoding="utf-8")
    return folder


def speak(monkeypatch, folder: Path) -> None:
    """Let the core know the languages of a folder, for one test."""
    monkeypatch.setenv(tables.OTHER_LANGUAGES, str(folder))
    for known in (tables.languages, tables.own_words, tables.texts):
        known.cache_clear()


def front_end(folder: Path) -> Path:
    """The front end with one language more: an empty catalogue, its words drawn out, built."""
    web = folder / "web"
    shutil.copytree(ROOT / "web", web, ignore=shutil.ignore_patterns("node_modules", "dist", ".warm*"))
    (web / "node_modules").symlink_to(ROOT / "web" / "node_modules")
    (web / "src" / "languages" / f"{PSEUDO}.po").touch()
    for command in (["npm", "run", "words"], ["npx", "vite", "build"]):
        done = subprocess.run(command, cwd=web, capture_output=True, text=True)
        assert done.returncode == 0, done.stdout[-2000:] + done.stderr[-2000:]
    return web / "dist"
