"""One of many writes in a request: done as if it had come by itself, by the same route and with the same checks."""

import json
from copy import copy
from typing import Any
from urllib.parse import urlsplit

from django.db import transaction
from django.http import HttpRequest, QueryDict
from django.urls import Resolver404, resolve

from shared.problems import ApiError


def one_of_many(request: HttpRequest, path: str, body: dict[str, Any]) -> dict[str, Any]:
    """What came of a write: its status, the problem where it was refused, its answer where it says more than a job."""
    place = urlsplit(path)
    one = copy(request)
    one.method, one.path, one.path_info = "PUT", place.path, place.path
    one.META = request.META | {"REQUEST_METHOD": "PUT", "QUERY_STRING": place.query}
    one.GET = QueryDict(place.query)
    one._body = json.dumps(body).encode()  # as Django keeps what it has read
    one._dont_enforce_csrf_checks = True  # type: ignore[attr-defined]  # the request they came in was checked
    try:
        match = resolve(place.path)
        if not place.path.startswith("/api/v1/") or place.path == request.path:
            raise Resolver404
        with transaction.atomic():
            answer = match.func(one, *match.args, **match.kwargs)
            if answer.status_code >= 500:
                raise _Stumbled(answer.content)
    except Resolver404:
        missing = ApiError(404, "not_found", "There is no such thing to write to.")
        return {"status": 404, "problem": missing.as_dict(), "answer": None}
    except _Stumbled as stumbled:
        problem = json.loads(stumbled.args[0])
        return {"status": problem["status"], "problem": problem, "answer": None}
    told = json.loads(answer.content) if answer.content else None
    if answer.status_code >= 400:
        return {"status": answer.status_code, "problem": told, "answer": None}
    shows_a_job = isinstance(told, dict) and "verdict" in told
    return {"status": 200, "problem": None, "answer": None if shows_a_job else told}


class _Stumbled(Exception):
    """A write that the server could not answer: nothing of it is kept."""
