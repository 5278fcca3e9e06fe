"""The API: one router an app, one shape for every error."""

import logging
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from config.observe import note_error, request_id_of
from day.api import router as day
from desk.api import router as desk
from drills.api import router as drills
from files.api import router as files
from instruments.api import router as instruments
from jobs.api import router as jobs
from machines.api import router as machines
from people.api import router as people
from reports.api import router as reports
from shared.problems import ApiError, as_path, problem
from stock.api import router as stock
from upkeep.api import router as upkeep
from warmdraft.errors import DocumentError, WarmdraftError
from whole.api import router as whole

log = logging.getLogger("warm.api")
#: Fields of a refused body that are named: a body of a million wrong ones is not answered with as many.
MOST_FIELDS = 20
api = NinjaAPI(title="Warm Draft", version="1", auth=django_auth, docs_url=None, urls_namespace="v1")
api.add_router("", people)
api.add_router("", files)
api.add_router("", machines)
api.add_router("", jobs)
api.add_router("", stock)
api.add_router("", reports)
api.add_router("", upkeep)
api.add_router("", desk)
api.add_router("", day)
api.add_router("", drills)
api.add_router("", whole)
api.add_router("", instruments)


@api.exception_handler(ApiError)
def on_problem(request: HttpRequest, error: ApiError) -> HttpResponse:
    return problem(error)


@api.exception_handler(DocumentError)
def on_document_error(request: HttpRequest, error: DocumentError) -> HttpResponse:
    return problem(ApiError(422, "damaged_file", str(error), [{"path": error.path, "message": error.message}]))


@api.exception_handler(WarmdraftError)
def on_core_error(request: HttpRequest, error: WarmdraftError) -> HttpResponse:
    return problem(ApiError(422, "not_possible", str(error)))


@api.exception_handler(ValidationError)
def on_validation_error(request: HttpRequest, error: ValidationError) -> HttpResponse:
    fields = [
        {"path": as_path(e["loc"]), "message": str(e["msg"]).removeprefix("Value error, ")}
        for e in error.errors[:MOST_FIELDS]
    ]
    return problem(ApiError(422, "not_understood", f"{fields[0]['path']}: {fields[0]['message']}", fields))


@api.exception_handler(AuthenticationError)
def on_not_signed_in(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return problem(ApiError(401, "not_signed_in", "You are not signed in; sign in and it goes on."))


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
def on_database_away(request: HttpRequest, error: Exception) -> HttpResponse:
    log.error("no database", extra={"error": type(error).__name__})
    return problem(
        ApiError(503, "database_away", "The database does not answer; what you wrote is kept and sent again.")
    )


@api.exception_handler(Http404)
def on_not_found(request: HttpRequest, error: Http404) -> HttpResponse:
    return problem(ApiError(404, "not_found", "There is no such thing in your workshop."))


@api.exception_handler(RequestDataTooBig)
def on_too_large(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE / 1e6
    return problem(
        ApiError(413, "too_large", f"This has more than {most:.0f} MB, which is the most; send less at once.")
    )


@api.exception_handler(HttpError)
def on_http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
    if error.status_code == 400:  # the body cannot be read at all: the same kind of trouble as one that says nonsense
        return problem(ApiError(422, "not_understood", "The body is not JSON in UTF-8; send it so."))
    codes: dict[int, Any] = {403: "not_allowed"}
    return problem(ApiError(error.status_code, codes.get(error.status_code, "failed"), str(error)))


@api.exception_handler(RecursionError)
def on_nested_too_deeply(request: HttpRequest, error: RecursionError) -> HttpResponse:
    return problem(ApiError(422, "not_understood", "This is nested too deeply for anything we know; send it flatter."))


@api.exception_handler(Exception)
def on_anything_else(request: HttpRequest, error: Exception) -> HttpResponse:
    """Our own mistake: written down with where it was made, said with the id it is found under."""
    note_error(request)
    found_under = request_id_of(request)
    told = f"The server stumbled over this ({found_under}); nothing of it was kept. Try again, or tell who runs it."
    return problem(ApiError(500, "stumbled", told))
