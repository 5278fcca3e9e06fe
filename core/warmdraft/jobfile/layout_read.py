"""A layout from its document."""

from __future__ import annotations

from typing import Any

from warmdraft.errors import DocumentError, LayoutError
from warmdraft.jobfile.layout_schema import LayoutDocument
from warmdraft.jobfile.strict import read_as
from warmdraft.teardown import Layout, layout_of


def read_layout_document(value: Any) -> dict[str, Any]:
    """A checked layout document, as plain values. Raises DocumentError."""
    return read_as(LayoutDocument, value, "a layout").model_dump(exclude_none=True)


def read_layout(value: Any) -> Layout:
    """A layout from its document. Raises DocumentError that says where it contradicts itself."""
    document = read_layout_document(value)
    try:
        return layout_of(document)
    except LayoutError as error:
        raise DocumentError(f"$.operations{error.at}", str(error)) from None
