"""Reads our own data files, each once. Outside files go through jobfile."""

from __future__ import annotations

import os
import tomllib
from collections.abc import Callable, Mapping
from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable
from pathlib import Path
from typing import Any, TypeVar

from warmdraft.errors import CatalogueError

Row = TypeVar("Row")


@cache
def table(name: str) -> dict[str, Any]:
    """The parsed `data/NAME.toml`; shared, so nobody changes it."""
    text = resources.files("warmdraft").joinpath("data", f"{name}.toml").read_text(encoding="utf-8")
    return tomllib.loads(text)


def rows(name: str, of: Callable[[str, dict[str, Any]], Row], where: Mapping[str, Any] | None = None) -> dict[str, Row]:
    """Each row of a table as what it stands for, by its name.

    of: makes one from its name and its keys. where: the rows, where they are not the whole table. Raises CatalogueError
    that names file, row and key where one is missing; what else can be wrong, warmdraft.catalogues finds at start.
    """
    made = {}
    for key, row in (table(name) if where is None else where).items():
        try:
            made[key] = of(key, row)
        except KeyError as error:
            raise CatalogueError(f"{name}.toml, {key}.{error.args[0]}: is missing; give it") from None
    return made


#: The language that our tables are written in.
SOURCE_LANGUAGE = "en"


#: Where languages lie that are not our own: a folder with a folder for each.
OTHER_LANGUAGES = "WARM_WORDS"


def _language_folders() -> dict[str, Traversable]:
    ours: Traversable = resources.files("warmdraft").joinpath("data", "words")
    others = os.environ.get(OTHER_LANGUAGES)
    roots = [ours, *([Path(others)] if others else [])]
    return {folder.name: folder for root in roots if root.is_dir() for folder in root.iterdir() if folder.is_dir()}


@cache
def languages() -> tuple[str, ...]:
    """Languages there are words of, ours first."""
    return (SOURCE_LANGUAGE, *sorted(_language_folders().keys() - {SOURCE_LANGUAGE}))


def source_table(name: str) -> str:
    """The table that holds the words of `name` in our own language: a file of words/en, or the table itself."""
    own = f"words/{SOURCE_LANGUAGE}/{name}"
    return own if resources.files("warmdraft").joinpath("data", f"{own}.toml").is_file() else name


@cache
def own_words(name: str, language: str) -> dict[str, Any]:
    """What a language's own file says of the table `name`; nothing where it has none. Raises CatalogueError."""
    folder = _language_folders().get(language)
    if folder is None:
        raise CatalogueError(f"'{language}' is no language here; give one of {', '.join(languages())}")
    file = folder.joinpath(f"{name}.toml")
    return tomllib.loads(file.read_text(encoding="utf-8")) if file.is_file() else {}


@cache
def texts(name: str, language: str = SOURCE_LANGUAGE) -> dict[str, Any]:
    """The table `name` with its texts in a language; what that language does not say yet stands in ours.

    Raises CatalogueError for a language that there is not.
    """
    ours = table(source_table(name))
    if language == SOURCE_LANGUAGE:
        return ours
    said: dict[str, Any] = _said_with(ours, own_words(name, language))
    return said


def _said_with(ours: Any, words: Any) -> Any:
    """A table's value with the words of a language laid over it; rows of a list by their id, else by their place."""
    if isinstance(ours, dict) and isinstance(words, dict):
        return ours | {key: _said_with(ours[key], value) for key, value in words.items() if key in ours}
    if isinstance(ours, list) and isinstance(words, list):
        # two variants of one operation have one id: each takes the next words of that id
        by_id: dict[str, list[Any]] = {}
        for row in words:
            if isinstance(row, dict) and "id" in row:
                by_id.setdefault(row["id"], []).append(row)
        given = [
            (by_id[row["id"]].pop(0) if by_id.get(row["id"]) else {}) if isinstance(row, dict) and "id" in row else None
            for row in ours
        ]
        return [
            _said_with(row, words[i] if named is None and i < len(words) else named or row)
            for i, (row, named) in enumerate(zip(ours, given, strict=True))
        ]
    return words
