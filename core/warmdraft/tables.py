"""Reads our own data files, each once. Outside files go through jobfile."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Mapping
from functools import cache
from importlib import resources
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


@cache
def texts(name: str, language: str = SOURCE_LANGUAGE) -> dict[str, Any]:
    """The table `name` with its texts in a language; its own folder of words first (`words/LANGUAGE/NAME`)."""
    folder = resources.files("warmdraft").joinpath("data", "words", language)
    if folder.joinpath(f"{name}.toml").is_file():
        return table(f"words/{language}/{name}")
    return table(name)
