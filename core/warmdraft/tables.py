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
