"""Errors as one shape, problem+json: a code for programs, a sentence for technicians, the field's path."""

import json
from collections.abc import Callable, Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse
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


class ApiError(Exception):
    """A refusal: something a person can mend; the handler in config.api turns it into an answer."""

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


def problem(error: ApiError) -> HttpResponse:
    """The answer."""
    return HttpResponse(
        json.dumps(error.as_dict()), status=error.status, content_type="application/problem+json",
        headers={"Retry-After": "5"} if error.status == 503 else None,
    )  # fmt: skip


#: What is refused before any route of ours is reached, in our words.
_BEFORE_A_ROUTE = {
    400: "This is no request that can be answered; send it again.",
    403: "This page is too old to send that; reload it and try again.",
    404: "There is nothing at this address.",
    405: "This address takes no such request.",
    413: "This is larger than what is taken; send less at once.",
}


class ProblemsOnly:
    """Whatever refuses a request of the API, Django itself included, does so in the one shape."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        ours = response.headers.get("Content-Type", "").startswith("application/problem+json")
        if response.status_code < 400 or ours or not request.path_info.startswith("/api/"):
            return response
        status = response.status_code
        message = _BEFORE_A_ROUTE.get(status, "The server could not answer; try again, or tell who runs it.")
        told = problem(ApiError(status, "failed" if status >= 500 else "not_understood", message))
        if "Allow" in response.headers:
            told.headers["Allow"] = response.headers["Allow"]
        return told


def as_path(location: Sequence[int | str]) -> str:
    """`("body", "facts", "value")` as `$.value`: what ninja puts before the body's own keys is left out."""
    steps = list(location)
    if steps and steps[0] in ("body", "query", "path"):
        steps = steps[2:] if steps[0] == "body" and len(steps) > 2 else steps[1:]
    path = "$"
    for step in steps:
        path += f"[{step}]" if isinstance(step, int) else f".{step}"
    return path
