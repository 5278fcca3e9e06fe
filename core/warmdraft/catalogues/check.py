"""Every table of ours held against its shape, and against the others."""

from __future__ import annotations

from collections.abc import Iterator
from importlib import resources
from typing import Any

from pydantic import TypeAdapter, ValidationError

from warmdraft.catalogues.rows import tables
from warmdraft.errors import CatalogueError, DocumentError, LayoutError
from warmdraft.jobfile import read_layout
from warmdraft.tables import table
from warmdraft.teardown import layout_document, layout_names, questions

_SAID = {
    "extra_forbidden": "is no key here; take it out, or see whether it is mistyped",
    "missing": "is missing; give it",
}


def _place(name: str, location: tuple[int | str, ...]) -> str:
    steps = [f"[{step}]" if isinstance(step, int) else f".{step}" for step in location if step != "[key]"]
    return f"{name}.toml, {''.join(steps).removeprefix('.')}"


def _wrong(name: str, error: ValidationError) -> CatalogueError:
    # a key that nobody knows first: where one is mistyped, the right one is missing too
    first = min(error.errors(), key=lambda row: row["type"] != "extra_forbidden")
    said = _SAID.get(first["type"], first["msg"].removeprefix("Value error, "))
    return CatalogueError(f"{_place(name, first['loc'])}: {said}")


def _shapes() -> Iterator[CatalogueError]:
    for name, kind in tables().items():
        try:
            TypeAdapter(kind).validate_python(table(name))
        except ValidationError as error:
            yield _wrong(name, error)


def _files() -> Iterator[CatalogueError]:
    """Files of the data folder that nothing here knows."""
    data = resources.files("warmdraft").joinpath("data")
    for folder in ("", "checks", "layouts"):
        for file in data.joinpath(folder).iterdir():
            name = f"{folder}/{file.name}".strip("/").removesuffix(".toml")
            if file.name.endswith(".toml") and name not in tables():
                yield CatalogueError(f"{name}.toml: is a file that nothing reads; take it out, or give it a shape")


def _layouts() -> Iterator[CatalogueError]:
    """Each layout as the document it stands for, and its answers to the looks."""
    asked = questions()
    for name in layout_names():
        try:
            read_layout(layout_document(name))
        except (DocumentError, LayoutError) as error:
            yield CatalogueError(f"layouts/{name}.toml: {error}")
        shows: dict[str, Any] = table(f"layouts/{name}")["recognise"]
        for question, row in asked.items():
            if question not in shows:
                yield CatalogueError(f"layouts/{name}.toml, recognise.{question}: is missing; say what is seen")
            for answer in shows.get(question, ()):
                if answer not in row.answers:
                    wanted = ", ".join(row.answers)
                    yield CatalogueError(
                        f"layouts/{name}.toml, recognise.{question}: '{answer}' is no answer; give one of {wanted}"
                    )


def catalogue_errors() -> list[CatalogueError]:
    """All that is wrong with our tables: unknown or missing keys, unknown codes, codes without words. Best empty."""
    found = [*_files(), *_shapes()]
    return found or [*_layouts()]


def check_catalogues() -> None:
    """Raise the first thing that is wrong with our tables: the file, the row, the key."""
    for error in catalogue_errors():
        raise error
