"""Finding a job by what people call things: a typed word stands for all that the trade calls the same."""

from __future__ import annotations

import hashlib
import os
import re
from functools import lru_cache
from pathlib import Path

import warmdraft
from warmdraft.tables import OTHER_LANGUAGES, table

#: Words of a search that are looked at: more of them only narrow it down further.
MOST_WORDS = 8
_WORD = re.compile(r"[^\W_]+")


def words_in(text: str) -> list[str]:
    """Words of a text, small, each once, in order.

    >>> words_in("Otter Ness kennels: 2 Ness Lane")
    ['otter', 'ness', 'kennels', '2', 'lane']
    """
    return list(dict.fromkeys(_WORD.findall(text.lower())))


@lru_cache(maxsize=1)
def _called_the_same() -> dict[str, frozenset[str]]:
    groups: dict[str, set[str]] = {}
    for said, means in table("trade_words")["words"].items():
        groups.setdefault(str(means), {str(means)}).add(str(said))
    return {word: frozenset(group) for group in groups.values() for word in group}


def search_terms(text: str) -> list[list[str]]:
    """What each typed word may stand as: itself first, then what the trade calls the same; phrases keep their blanks.

    >>> search_terms("noisy blower")
    [['noisy'], ['blower', 'fan', 'impeller', 'squirrel cage', 'wheel']]
    """
    same = _called_the_same()
    return [[word, *sorted(same.get(word, frozenset()) - {word})] for word in words_in(text)[:MOST_WORDS]]


@lru_cache(maxsize=1)
def words_version() -> str:
    """A mark of all words and tables there are: what was said with others is to be said anew."""
    others = os.environ.get(OTHER_LANGUAGES)
    folders = [Path(warmdraft.__file__).parent / "data", *([Path(others)] if others else [])]
    hashed = hashlib.sha256()
    for file in (file for folder in folders for file in sorted(folder.rglob("*.toml"))):
        hashed.update(file.name.encode())
        hashed.update(file.read_bytes())
    return hashed.hexdigest()[:12]
