"""JSON, strictly: no NaN, no infinity, no key twice."""

from __future__ import annotations

import json
import math
from typing import Any, NoReturn

from warmdraft.errors import DocumentError
from warmdraft.jobfile.limits import MOST_BYTES, check_limits
from warmdraft.text import unwritable


class _Doubled(Exception):
    pass


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    keys = [key for key, _ in pairs]
    if len(set(keys)) != len(keys):
        raise _Doubled(next(key for key in keys if keys.count(key) > 1))
    return dict(pairs)


def _refuse_constant(text: str) -> NoReturn:
    raise DocumentError("$", f"{text} is not a number in JSON; give a finite number or leave the key out")


def _number(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise DocumentError("$", f"{text} is too large for any machine; give a finite number")
    return value


def parse_json(data: bytes) -> Any:
    """The value in a JSON file. Raises DocumentError saying what is wrong and where."""
    if len(data) > MOST_BYTES:
        raise DocumentError(
            "$", f"the file has {len(data)} bytes; a job has at most {MOST_BYTES}: is it the right file?"
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise DocumentError("$", f"byte {error.start} is not UTF-8; save the file as UTF-8 text") from None
    if not text.strip():
        raise DocumentError("$", "the file is empty; give a JSON document")
    try:
        value = json.loads(text, object_pairs_hook=_once, parse_constant=_refuse_constant, parse_float=_number)
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise DocumentError("$", f"not JSON at {where}: {error.msg}; mend it there") from None
    except _Doubled as error:
        raise DocumentError("$", f"the key '{error}' stands twice in one object; keep one") from None
    except RecursionError:
        raise DocumentError("$", "nested too deeply for any job; is it the right file?") from None
    except ValueError:  # an integer of thousands of digits
        raise DocumentError("$", "holds a number with too many digits; give a finite number") from None
    check_limits(value)
    if "\\u" in text and unwritable(value):  # they come in as escapes only
        raise DocumentError("$", "holds a NUL or half a character in its text; take it out")
    return value
