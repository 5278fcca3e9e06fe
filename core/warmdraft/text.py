"""Text that can be written down: no NUL, no half of a surrogate pair. Neither UTF-8 files nor databases hold them."""

from __future__ import annotations

import re
from typing import Any

_UNWRITABLE = re.compile("[\x00\ud800-\udfff]")


def unwritable(value: Any) -> bool:
    """Whether any text in a JSON value, keys included, cannot be written down. However deep it is nested."""
    waiting = [value]
    while waiting:
        part = waiting.pop()
        if isinstance(part, str):
            if _UNWRITABLE.search(part):
                return True
        elif isinstance(part, dict):
            waiting += [*part, *part.values()]
        elif isinstance(part, list):
            waiting += part
    return False
