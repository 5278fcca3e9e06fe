"""The API: one router an app, one shape for every error."""

import logging
from typing import Any

from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from config.problems import Problem, as_path, problem
from files.api import router as files
from instruments.api import router as instruments
from jobs.api import router as jobs
from machines.api import router as machines
from people.api import router as people
from reports.api import router as reports
from warmdraft.errors import DocumentError, WarmdraftError

log = logging.getLogger("warm.api")
api = NinjaAPI(title="Warm Draft", version="1", auth=django_auth, docs_url=None, urls_namespace="v1")
api.add_router("", people)
api.add_router("", files)
api.add_router("", machines)
api.add_router("", jobs)
api.add_router("", reports)
api.add_router("", instruments)


@api.exception_handler(Problem)
def on_problem(request: HttpRequest, error: Problem) -> HttpResponse:
    return problem(error.status, error.code, error.message, error.fields, error.more)


@api.exception_handler(DocumentError)
def on_document_error(request: HttpRequest, error: DocumentError) -> HttpResponse:
    return problem(422, "damaged_file", str(error), [{"path": error.path, "message": error.message}])


@api.exception_handler(WarmdraftError)
def on_core_error(request: HttpRequest, error: WarmdraftError) -> HttpResponse:
    return problem(422, "not_possible", str(error))


@api.exception_handler(ValidationError)
def on_validation_error(request: HttpRequest, error: ValidationError) -> HttpResponse:
    fields = [{"path": as_path(e["loc"]), "message": e["msg"]} for e in error.errors]
    return problem(422, "not_understood", f"{fields[0]['path']}: {fields[0]['message']}", fields)


@api.exception_handler(AuthenticationError)
def on_not_signed_in(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return problem(401, "not_signed_in", "You are not signed in; sign in and it goes on.")


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
def on_database_away(request: HttpRequest, error: Exception) -> HttpResponse:
    log.error("no database", extra={"error": type(error).__name__})
    return problem(503, "database_away", "The database does not answer; what you wrote is kept and sent again.")


@api.exception_handler(Http404)
def on_not_found(request: HttpRequest, error: Http404) -> HttpResponse:
    return problem(404, "not_found", "There is no such thing in your workshop.")


@api.exception_handler(HttpError)
def on_http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
    if error.status_code == 400:  # the body cannot be read at all: the same kind of trouble as one that says nonsense
        return problem(422, "not_understood", "The body is not JSON in UTF-8; send it so.")
    codes: dict[int, Any] = {403: "not_allowed"}
    return problem(error.status_code, codes.get(error.status_code, "failed"), str(error))
