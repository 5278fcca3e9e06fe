"""Errors as one shape, problem+json: a code for programs, a sentence for technicians, the field's path."""

import json
from collections.abc import Sequence
from typing import Any

from django.http import HttpResponse
from ninja import Schema


class FieldProblem(Schema):
    """One field that is wrong; path as in a job file, `$.readings[2].unit`."""

    path: str
    message: str


class ProblemOut(Schema):
    """RFC 9457 problem details, with a code, the message and the fields."""

    title: str
    status: int
    code: str
    message: str
    fields: list[FieldProblem] = []
    #: For a conflict: what is there, and what was offered.
    recorded: dict[str, Any] | None = None
    offered: dict[str, Any] | None = None


class Problem(Exception):
    """Something a person can mend; the handler in config.api turns it into an answer."""

    def __init__(
        self,
        status: int,
        code: str,
        message: str,
        fields: Sequence[dict[str, str]] = (),
        more: dict[str, Any] | None = None,
    ) -> None:
        super().__init__(message)
        self.status, self.code, self.message = status, code, message
        self.fields, self.more = list(fields), more or {}

    def as_dict(self) -> dict[str, Any]:
        """The problem's details, plain JSON."""
        body = {
            "title": self.code.replace("_", " "), "status": self.status, "code": self.code, "message": self.message,
            "fields": self.fields, **self.more,
        }  # fmt: skip
        plain: dict[str, Any] = json.loads(json.dumps(body, default=str))
        return plain


def problem(error: Problem) -> HttpResponse:
    """The answer."""
    return HttpResponse(
        json.dumps(error.as_dict()), status=error.status, content_type="application/problem+json",
        headers={"Retry-After": "5"} if error.status == 503 else None,
    )  # fmt: skip


def as_path(location: Sequence[int | str]) -> str:
    """`("body", "facts", "value")` as `$.value`: what ninja puts before the body's own keys is left out."""
    steps = list(location)
    if steps and steps[0] in ("body", "query", "path"):
        steps = steps[2:] if steps[0] == "body" and len(steps) > 2 else steps[1:]
    path = "$"
    for step in steps:
        path += f"[{step}]" if isinstance(step, int) else f".{step}"
    return path
