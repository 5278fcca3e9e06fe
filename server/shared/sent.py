"""An answer of the core as it is sent; its schema is that of the same type."""

from typing import Any

from django.http import HttpResponse
from pydantic_core import to_json


def sent(answer: Any) -> HttpResponse:
    """As JSON."""
    return HttpResponse(to_json(answer, inf_nan_mode="null"), content_type="application/json; charset=utf-8")
