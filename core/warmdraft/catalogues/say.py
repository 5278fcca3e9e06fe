"""What there is to say in another language: the words of every table, and whether a language has them."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from types import NoneType, UnionType
from typing import Annotated, Any, Union, get_args, get_origin, get_type_hints

from pydantic import BaseModel

from warmdraft.catalogues.names import Says
from warmdraft.catalogues.rows import tables
from warmdraft.errors import CatalogueError
from warmdraft.tables import SOURCE_LANGUAGE, own_words, source_table, table


def _of_name(name: str) -> str:
    """A table's name as a language's folder has it."""
    return name.removeprefix(f"words/{SOURCE_LANGUAGE}/")


def _said(kind: Any, value: Any, say: Callable[[str], str]) -> Any:
    """Of a table's value only what is said, each put through `say`; None where nothing is."""
    if get_origin(kind) is Annotated:
        inner, *marks = get_args(kind)
        return say(value) if any(isinstance(mark, Says) for mark in marks) else _said(inner, value, say)
    if get_origin(kind) in (Union, UnionType):
        return _said(next(part for part in get_args(kind) if part is not NoneType), value, say)
    if get_origin(kind) is dict and isinstance(value, Mapping):
        of = get_args(kind)[1]
        return {key: said for key, part in value.items() if (said := _said(of, part, say)) is not None} or None
    if get_origin(kind) is list and isinstance(value, list):
        return _said_rows(get_args(kind)[0], value, say)
    if isinstance(kind, type) and issubclass(kind, BaseModel) and isinstance(value, Mapping):
        return _said_fields(kind, value, say)
    return None


def _said_rows(kind: Any, rows: list[Any], say: Callable[[str], str]) -> Any:
    said = [_said(kind, row, say) for row in rows]
    if all(row is None for row in said):
        return None
    if all(isinstance(row, Mapping) and "id" in row for row in rows):
        return [{"id": row["id"]} | words for row, words in zip(rows, said, strict=True) if words]
    return [{} if words is None else words for words in said]


def _said_fields(kind: type[BaseModel], row: Mapping[str, Any], say: Callable[[str], str]) -> Any:
    fields = {field.alias or name: field for name, field in kind.model_fields.items()}
    free = get_type_hints(kind, include_extras=True)["__pydantic_extra__"] if _is_free(kind) else None
    of_free = get_args(free)[1] if free else None
    said = {}
    for key, value in row.items():
        field = fields.get(key)
        words = None
        if field is not None:
            of = Annotated[field.annotation, *field.metadata] if field.metadata else field.annotation
            words = _said(of, value, say)
        elif of_free is not None:
            words = _said(of_free, value, say)
        if words is not None:
            said[key] = words
    return said or None


def _is_free(kind: type[BaseModel]) -> bool:
    """Whether any key may stand in its rows, all of one type."""
    return "__pydantic_extra__" in kind.__annotations__


def to_say(name: str, say: Callable[[str], str] = str) -> dict[str, Any]:
    """The words of a table as a language's own file has them (`words/LANGUAGE/NAME.toml`).

    name: as a language's folder has it, of `said_tables`. say: makes each text.
    """
    source = source_table(name)
    said: dict[str, Any] | None = _said(tables()[source], table(source), say)
    return said or {}


def said_tables() -> tuple[str, ...]:
    """Tables that have words, as a language's folder names them."""
    return tuple(name for name in map(_of_name, tables()) if to_say(name))


def _texts(value: Any, at: str = "") -> Iterator[tuple[str, str]]:
    if isinstance(value, Mapping):
        for key, part in value.items():
            if key != "id":
                yield from _texts(part, f"{at}.{key}".removeprefix("."))
    elif isinstance(value, list):
        for i, part in enumerate(value):
            yield from _texts(part, f"{at}[{part['id'] if isinstance(part, Mapping) and 'id' in part else i}]")
    else:
        yield at, str(value)


def unsaid(language: str) -> list[str]:
    """What a language has no words for yet, as "file, key". Raises CatalogueError where it says what nobody asked."""
    missing = []
    for name in said_tables():
        ours, theirs = dict(_texts(to_say(name))), dict(_texts(own_words(name, language)))
        for key in theirs.keys() - ours.keys():
            raise CatalogueError(f"{language}/{name}.toml, {key}: is nothing that is said; take it out")
        missing += [f"{name}.toml, {key}" for key in ours.keys() - theirs.keys()]
        missing += [f"{name}.toml, {key} (is empty)" for key, text in theirs.items() if not text.strip() and ours[key]]
    return sorted(missing)


def still_ours(language: str) -> dict[str, int]:
    """By table: how many texts a language says just as ours does."""
    same = {}
    for name in said_tables():
        ours = dict(_texts(to_say(name)))
        same[name] = sum(ours.get(key) == text for key, text in _texts(own_words(name, language)))
    return {name: number for name, number in same.items() if number}


def as_toml(words: Mapping[str, Any]) -> str:
    """The words of a table as a file, a row a line."""
    return "".join(f"{json.dumps(key)} = {_inline(value)}\n" for key, value in words.items())


def _inline(value: Any) -> str:
    if isinstance(value, Mapping):
        return "{ " + ", ".join(f"{json.dumps(key)} = {_inline(part)}" for key, part in value.items()) + " }"
    if isinstance(value, list):
        return "[" + ", ".join(map(_inline, value)) + "]"
    return json.dumps(value, ensure_ascii=False)
