"""Text that can be written down: no NUL, no half of a surrogate pair. Neither UTF-8 files nor databases hold them."""

from __future__ import annotations

import re
from typing import Any

_UNWRITABLE = re.compile("[\x00\ud800-\udfff]")


def unwritable(value: Any) -> bool:
    """Whether any text in a JSON value, keys included, cannot be written down."""
    if isinstance(value, str):
        return _UNWRITABLE.search(value) is not None
    if isinstance(value, dict):
        return any(unwritable(key) or unwritable(part) for key, part in value.items())
    return isinstance(value, list) and any(map(unwritable, value))
