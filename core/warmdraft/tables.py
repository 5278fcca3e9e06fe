"""Reads our own data files, each once. Outside files go through jobfile."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Any


@cache
def table(name: str) -> dict[str, Any]:
    """The parsed `data/NAME.toml`; shared, so nobody changes it."""
    text = resources.files("warmdraft").joinpath("data", f"{name}.toml").read_text(encoding="utf-8")
    return tomllib.loads(text)


#: The language that our tables are written in.
SOURCE_LANGUAGE = "en"


@cache
def texts(name: str, language: str = SOURCE_LANGUAGE) -> dict[str, Any]:
    """The table `name` with its texts in a language; its own folder of words first (`words/LANGUAGE/NAME`)."""
    folder = resources.files("warmdraft").joinpath("data", "words", language)
    if folder.joinpath(f"{name}.toml").is_file():
        return table(f"words/{language}/{name}")
    return table(name)
