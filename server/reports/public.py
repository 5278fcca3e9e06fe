"""What is read without signing in: a record by its link, a workshop's calendar, the end of reminders.

These are pages, not the app: they work without scripts, say nothing to a search engine and to no other page.
"""

from collections.abc import Callable
from datetime import date
from functools import wraps
from typing import Any

from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.template import Context
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods

from files.models import Picture
from machines.models import Place
from people.tokens import open_token
from reports.links import read_by
from reports.models import Link, Record
from reports.paper import TEMPLATES, OnTheWeb, html, make_print, paper_in, photos_of, print_of, style
from shared.slots import working
from upkeep.calendars import of_customer, of_workshop
from upkeep.models import Due, Feed
from upkeep.tasks import SALT
from warmdraft.paper import customer_languages, language_for, says_for

#: Events of a calendar at most: who has more asks for a place at a time.
MOST_EVENTS = 5_000
#: A signed address of a mail holds for so many seconds.
_A_YEAR = 366 * 24 * 3600


def _private(response: HttpResponse) -> HttpResponse:
    """Kept by nobody in between, named to nobody."""
    response.headers["Cache-Control"] = "private, no-store"
    response.headers["Referrer-Policy"] = "no-referrer"
    response.headers["X-Robots-Tag"] = "noindex, nofollow"
    return response


def _asked(request: HttpRequest, record: Record) -> str:
    return language_for(request.GET.get("language", ""), record.language)


def _gone(request: HttpRequest) -> HttpResponse:
    says = says_for(language_for(request.headers.get("Accept-Language", "")[:2].lower()))
    return _private(_page(says.language, says("reminder", "gone"), status=404))


def _page(language: str, text: str, status: int = 200, **more: Any) -> HttpResponse:
    told = TEMPLATES.get_template("note.html").render(Context({"language": language, "text": text, **more}))
    return HttpResponse(told, status=status)


@require_GET
def sheet(request: HttpRequest) -> HttpResponse:
    """The style of these pages."""
    answer = HttpResponse(style("/assets/"), content_type="text/css; charset=utf-8")
    answer.headers["Cache-Control"] = "public, max-age=3600"
    return answer


def _by_link(view: Callable[..., HttpResponse | None]) -> Callable[..., HttpResponse]:
    """A page that a link leads to: it is asked with link and record, and answered in private; what it has not, and what
    a withdrawn link led to, is gone."""

    @require_GET
    @wraps(view)
    def seen(request: HttpRequest, token: str, **more: str) -> HttpResponse:
        found = read_by(token)
        answer = view(request, *found, **more) if found is not None else None
        return _gone(request) if answer is None else _private(answer)

    return seen


@_by_link
def record(request: HttpRequest, link: Link, row: Record) -> HttpResponse | None:
    """The record."""
    language = _asked(request, row)
    paper = paper_in(row, language)
    if paper is None:
        return None
    others = tuple((code, name) for code, name in customer_languages().items() if code != paper["language"])
    here = f"/r/{link.token}"
    web = OnTheWeb(
        style="/paper.css", photos=f"{here}/photo/", others=others, pdf=f"{here}/record.pdf?language={language}",
        calendar=f"{here}/next.ics?language={language}" if _due_of(row) else "",
    )  # fmt: skip
    return HttpResponse(html(row, language, web, link))


@_by_link
def record_pdf(request: HttpRequest, link: Link, row: Record) -> HttpResponse | None:
    """The same as a PDF: as it was printed, else printed now."""
    language = _asked(request, row)
    if print_of(row, language, row.size) is None:
        with working:
            make_print(row.id, language, row.size)
    made = print_of(row, language, row.size)
    if made is None:
        return None
    answer = HttpResponse(bytes(made.pdf), content_type="application/pdf")
    answer.headers["Content-Disposition"] = f'inline; filename="record-{row.edition}.pdf"'
    return answer


def _due_of(row: Record) -> date | None:
    due = Due.objects.filter(machine=row.job.machine_id).first()
    return due.service_by if due else None


@_by_link
def next_visit(request: HttpRequest, link: Link, row: Record) -> HttpResponse | None:
    """The next visit as a file for a calendar."""
    day = _due_of(row)
    if day is None:
        return None
    says = says_for(_asked(request, row))
    place = row.job.machine.place.name
    title = says("reminder", "subject", workshop=row.workshop.name)
    text = says("reminder", "due", machine=place, day=says.day(day), workshop=row.workshop.name)
    return _ics(of_customer(f"next-{row.job_id}", day, title, text, row.frozen_at), "next-visit.ics")


def _ics(data: bytes, name: str) -> HttpResponse:
    answer = HttpResponse(data, content_type="text/calendar; charset=utf-8")
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@_by_link
def photo(request: HttpRequest, link: Link, row: Record, sha256: str) -> HttpResponse | None:
    """A photo of the record; no other one."""
    shown = any(sha256 == chosen for chosen, _ in photos_of(row))
    picture = Picture.objects.filter(workshop=row.workshop_id, sha256=sha256).first() if shown else None
    return HttpResponse(picture.content(), content_type="image/jpeg") if picture is not None else None


@require_GET
def calendar(request: HttpRequest, token: str) -> HttpResponse:
    """The next visits of a workshop, for a program that reads them again and again."""
    feed = open_token(Feed, token=token)
    if feed is None:
        return _gone(request)
    rows = Due.objects.filter(workshop=feed.workshop_id).select_related("machine__place").order_by("service_by")
    return _private(_ics(of_workshop(feed.workshop.name, rows[:MOST_EVENTS]), "next-visits.ics"))


@csrf_exempt  # what is signed in the address is all that it acts on, and nobody is signed in
@require_http_methods(["GET", "POST"])
def no_more_mail(request: HttpRequest, signed: str) -> HttpResponse:
    """Ends the reminders of a place. Asked once more: programs that look at mails open their links."""
    try:
        place = Place.objects.select_related("workshop").get(id=signing.loads(signed, salt=SALT, max_age=_A_YEAR))
    except (signing.BadSignature, Place.DoesNotExist, ValueError):
        return _gone(request)
    says = says_for(language_for(place.language, place.workshop.speaks))
    if request.method == "GET" and not place.no_reminders:
        return _private(_page(says.language, says("reminder", "ask_stop"), ask=says("reminder", "yes_stop")))
    Place.objects.filter(pk=place.pk).update(no_reminders=True)
    return _private(_page(says.language, says("reminder", "stopped")))
