"""Checking a value against a format, with the first thing that is wrong in our words and by its place."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, TypeVar, get_args

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from warmdraft.errors import DocumentError
from warmdraft.jobfile.parts import Section

_Document = TypeVar("_Document", bound=Section)


def _path(location: tuple[int | str, ...], at: str = "") -> str:
    path = "$"
    for step in (*location, *((at,) if at else ())):
        path += f"[{step}]" if isinstance(step, int) else f".{step}"
    return path


def _short(value: Any) -> str:
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "..."


_WANTED = {
    "missing": "is missing; give it",
    "model_type": "is not an object; give one in braces",
    "dict_type": "is not an object; give one in braces",
    "list_type": "is not a list; give one in brackets",
    "string_type": "is not text; give some in quotes",
    "bool_type": "is neither true nor false; give one of them",
    "int_type": "is not a whole number; give one",
    "int_from_float": "is not a whole number; give one",
    "float_type": "is not a number; give one",
    "finite_number": "is not a finite number; give one",
    "too_short": "has too few entries; give at least one",
    "string_too_short": "is empty; give some text",
}


def first_wrong(error: ValidationError) -> DocumentError:
    """The first thing pydantic found, in our words."""
    found: ErrorDetails = error.errors()[0]
    context, given = found.get("ctx", {}), found["input"]
    if found["type"] == "warm_draft":
        return DocumentError(_path(found["loc"], context["at"]), context["said"])
    if found["type"] == "missing":
        return DocumentError(_path(found["loc"]), _WANTED["missing"])
    if found["type"] == "literal_error":
        return DocumentError(_path(found["loc"]), f"{_short(given)} is not known; give {context['expected']}")
    wanted = _WANTED.get(found["type"], f"cannot be used: {found['msg']}")
    return DocumentError(_path(found["loc"]), f"{_short(given)} {wanted}")


def read_as(model: type[_Document], value: Any, what: str) -> _Document:
    """Check a parsed JSON value against a format. Raises DocumentError."""
    if not isinstance(value, Mapping):
        wanted = get_args(model.model_fields["format"].annotation)[0]
        raise DocumentError("$", f'{_short(value)} is not {what}; give an object with "format": "{wanted}"')
    try:
        return model.model_validate(value)
    except ValidationError as error:
        raise first_wrong(error) from None
