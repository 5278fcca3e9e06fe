"""The real interface in Debian's Chromium, on the real server and database."""

from __future__ import annotations

import logging
import os
import re
import threading
import time
import uuid
from collections.abc import Iterable
from dataclasses import dataclass
from wsgiref.types import StartResponse, WSGIApplication, WSGIEnvironment

import pytest
from django.apps import apps
from django.db import connection, transaction
from django.db.models import Model
from django.utils import timezone
from playwright.sync_api import Page, expect

from jobs.live.streams import ears

# sync Playwright keeps an event loop running in this thread; only these tests run beside it
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
WIDTHS = {"desk": {"width": 1280, "height": 800}, "phone": {"width": 390, "height": 844}}
PASSWORD = "a long password"
#: What a browser says of a line that a story cuts on purpose, or of a stream that cannot be held.
LINE_CUT = ("ERR_INTERNET_DISCONNECTED", "ERR_CONNECTION_RESET", "status of 503")
expect.set_options(timeout=10_000)
#: A link inside the app, followed; and the page there is drawn with what it asks for.
_ARRIVED = """(to) => document.documentElement.dataset.place === to
  && !document.querySelector('[aria-busy=true]')"""
_LEFT = """(here) => document.documentElement.dataset.place !== here
  && !document.querySelector('[aria-busy=true]')"""
_GO = "(to) => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate')) }"


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    flags = (
        "--no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run "
        "--disable-background-networking --disable-component-update --disable-sync"
    )
    path = os.environ.get("WARM_CHROMIUM", "/usr/bin/chromium-headless-shell")
    return {**browser_type_launch_args, "executable_path": path, "args": flags.split()}


@dataclass
class Bench:
    """A page, and a technician of a fresh workshop who may sign in on it."""

    page: Page
    url: str
    email: str
    interactions: int = 0

    def press(self, role: str, name, **more) -> None:
        """One interaction: a click or a tap."""
        self.interactions += 1
        self.page.get_by_role(role, name=name, **more).first.click()

    def sign_in(self) -> None:
        self.page.goto(self.url)
        self.page.get_by_label("E-mail").fill(self.email)
        self.page.get_by_label("Password").fill(PASSWORD)
        self.press("button", "Sign in")

    def next(self) -> None:
        """Press the one button, wherever it is at this width."""
        self.interactions += 1
        phone = self.page.viewport_size["width"] < 700
        button = self.page.locator("div.fixed button.btn-primary" if phone else "aside button.btn-primary")
        button.first.click()

    def to(self, path: str) -> None:
        """To a page as the app's own links lead there: drawn when this returns, and nothing is fetched twice."""
        self.page.evaluate(_GO, path)
        self.page.wait_for_function(_ARRIVED, arg=path)

    def follow(self, name: str) -> None:
        """A link by its name, and the page it leads to: what stands on this one may stand there too."""
        here = self.page.evaluate("document.documentElement.dataset.place")
        self.page.get_by_role("link", name=name).first.click()
        self.page.wait_for_function(_LEFT, arg=here)

    def reads(self, typed: str) -> None:
        """Type a number and save it."""
        self.page.locator("input[data-answer]").fill(typed)
        self.press("button", "Save the reading")

    def proves_the_rest(self, reads: str = "110") -> None:
        """What is asked for beside what settles it, as on a machine that is as it should be."""
        for _ in range(6):
            asked = self.page.get_by_role("button", name=re.compile("^Also: ")).first
            self.page.wait_for_timeout(400)
            if not asked.is_visible():
                return
            check = asked.inner_text()
            self.next()
            field = self.page.locator("input[data-answer]")
            good = self.page.locator("button[data-answer]").first
            field.or_(good).first.wait_for()
            if field.is_visible():
                self.reads(reads)
            else:
                good.click()
            expect(self.page.get_by_role("button", name=check)).to_have_count(0)


@pytest.fixture(scope="session", autouse=True)
def nobody_listens_to_a_database_that_goes(django_db_setup):
    """The thread that hears of changes holds a connection of its own: it goes before the database does."""
    yield
    ears.stop()


@pytest.fixture(params=WIDTHS)
def width(request) -> str:
    return request.param


def _someone(name: str, role: str = "lead") -> str:
    from people.models import Membership, Person, Workshop

    email = f"{uuid.uuid4().hex[:8]}@lake.example"
    person = Person.objects.create_user(email, PASSWORD, name=name)
    workshop = Workshop.objects.create(name="Fell Dryer Works")
    Membership.objects.create(person=person, workshop=workshop, role=role, qualifications=["live"])
    return email


@pytest.fixture
def bench(live_server, page: Page, width: str):
    """At both widths."""
    page.set_viewport_size(WIDTHS[width])
    yield Bench(page, live_server.url, _someone("Ada Fell"))


@pytest.fixture
def desk(live_server, page: Page):
    """At the desk only."""
    page.set_viewport_size(WIDTHS["desk"])
    yield Bench(page, live_server.url, _someone("Ada Fell"))


@pytest.fixture
def phone(live_server, page: Page):
    """On a phone only."""
    page.set_viewport_size(WIDTHS["phone"])
    yield Bench(page, live_server.url, _someone("Ada Fell"))


_laid_out: dict[str, list[list[Model]]] = {}


def lay_out_the_demo(language: str = "en") -> None:
    """Built once in a language by its own code, then put back from its rows: each test starts with empty tables."""
    from demo.world import reset

    if language not in _laid_out:
        reset(timezone.now())
        apps_with_rows = map(
            apps.get_app_config, ("people", "machines", "files", "jobs", "stock", "upkeep", "reports", "day")
        )
        models = [model for app in apps_with_rows for model in app.get_models(include_auto_created=True)]
        _laid_out[language] = [list(model._default_manager.all()) for model in models]
        return
    with transaction.atomic():  # who names whom is checked at its end
        for rows in filter(None, _laid_out[language]):
            type(rows[0])._default_manager.bulk_create(rows)


@pytest.fixture
def demo(live_server, page: Page):
    """The demo workshop, seen by its lead."""
    from demo.world import PASSWORD as DEMO_PASSWORD
    from demo.world import PEOPLE

    lay_out_the_demo()
    page.goto(live_server.url)
    page.get_by_label("E-mail").fill(PEOPLE[1][0])
    page.get_by_label("Password").fill(DEMO_PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("link", name="New job").wait_for()
    yield Bench(page, live_server.url, PEOPLE[1][0])


class AtWork:
    """A server's application that knows how many requests are at work in it."""

    def __init__(self, application: WSGIApplication) -> None:
        self.application, self.requests, self.lock = application, 0, threading.Lock()

    def _count(self, more: int) -> None:
        with self.lock:
            self.requests += more

    def __call__(self, environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        self._count(1)
        try:
            return self.application(environ, start_response)
        finally:
            self._count(-1)


@pytest.fixture(scope="session")
def at_work(live_server) -> AtWork:
    httpd = live_server.thread.httpd
    httpd.set_app(AtWork(httpd.get_app()))
    return httpd.get_app()


def _busy(at_work: AtWork) -> bool:
    """Whether a request is still at work: the tables are emptied next, and it would be in the way. It counts, and a
    transaction that is still open does."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid() "
            "AND state IN ('active', 'idle in transaction')"
        )
        return at_work.requests + ears.open + cursor.fetchone()[0] > 0


def _wait_for_calm(at_work: AtWork) -> None:
    """Nothing at work, several looks long: what the browser had just sent may not have begun."""
    calm = 0
    for _ in range(600):
        calm = 0 if _busy(at_work) else calm + 1
        if calm == 4:
            return
        time.sleep(0.05)
    raise AssertionError("a request is still at work, 30 s after its page was left")


#: What the server and the browser's console said during a story, the latest last.
SAID = pytest.StashKey[list[str]]()
MOST_SAID = 60


class _Heard(logging.Handler):
    """Keeps what the server logs."""

    def __init__(self, said: list[str]) -> None:
        super().__init__()
        self.said = said

    def emit(self, record: logging.LogRecord) -> None:
        of_request = [str(getattr(record, key)) for key in ("method", "route", "status") if hasattr(record, key)]
        self.said.append(f"server: {record.levelname} {record.getMessage()} {' '.join(of_request)}".rstrip())


@pytest.fixture(autouse=True)
def what_was_said_is_told_of_a_failure(request, page: Page):
    """A story that fails says what the server and the browser's console said."""
    said = request.node.stash[SAID] = []
    page.on("console", lambda m: said.append(f"console: {m.type} {m.text}"))
    page.on("requestfailed", lambda failed: said.append(f"console: {failed.method} {failed.url} {failed.failure}"))
    heard, ours = _Heard(said), logging.getLogger("warm")
    usual = ours.level
    ours.setLevel(logging.INFO)
    logging.getLogger().addHandler(heard)
    yield
    logging.getLogger().removeHandler(heard)
    ours.setLevel(usual)


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item, call):
    report = yield
    if report.failed and item.stash.get(SAID, None) and hasattr(report.longrepr, "addsection"):
        report.longrepr.addsection("server and console", "\n".join(item.stash[SAID][-MOST_SAID:]))
    return report


@pytest.fixture(autouse=True)
def nothing_leaves_the_machine_and_nothing_breaks(page: Page, transactional_db, at_work: AtWork):
    """No request to another host, no error on the console, in any story."""
    abroad, errors = [], []
    home = ("http://localhost", "http://127.0.0.1", "data:", "blob:")
    page.on("request", lambda request: None if request.url.startswith(home) else abroad.append(request.url))
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.on("console", lambda m: errors.append(m.text) if m.type == "error" and "status of 4" not in m.text
            and not any(cut in m.text for cut in LINE_CUT) else None)  # fmt: skip
    yield
    page.goto("about:blank")
    ears.end_streams()  # what a stream writes at its end is of this test, not of the next
    _wait_for_calm(at_work)
    assert abroad == []
    assert errors == []
