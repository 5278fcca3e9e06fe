"""Lists page by page: each page says where the next begins, by the key of its last row, so that page 1,000 costs as
much as the first. The rows are the body, where the next page begins is a header: a client that knows no pages sees the
first.
"""

from collections.abc import Callable
from typing import Any, TypeVar

from django.db.models import Model, QuerySet
from django.http import HttpResponse

from shared.problems import ApiError

#: Where the next page begins: sent back as `after`. Left out on the last page.
NEXT = "X-Warm-Next"
_DIVIDES = "~"

_Row = TypeVar("_Row", bound=Model)


def next_page(
    response: HttpResponse, rows: QuerySet[_Row] | list[_Row], most: int, key: Callable[[_Row], tuple[Any, ...]]
) -> list[_Row]:
    """At most so many rows; says in the answer where the next begins. rows: ordered by what key gives."""
    page = list(rows[: most + 1])
    if len(page) > most:
        response.headers[NEXT] = _DIVIDES.join(str(part) for part in key(page[most - 1]))
    return page[:most]


def key_of(after: str, *kinds: Callable[[str], Any]) -> list[Any]:
    """The parts of a key as it was given. Raises the problem of one that is none of ours."""
    parts = after.split(_DIVIDES)
    try:
        if len(parts) != len(kinds):
            raise ValueError
        return [kind(part) for kind, part in zip(kinds, parts, strict=True)]
    except (ValueError, OverflowError):
        raise ApiError(422, "no_such_page", "No page begins there; start from the first one.",
                      [{"path": "$.after", "message": "is no key of a page"}]) from None  # fmt: skip
