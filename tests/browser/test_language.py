"""Another language: a pseudo-language that marks every word leaves no English on any view."""

import csv
import io
import mimetypes
import re
from pathlib import Path
from urllib.parse import urlparse

import pytest
from playwright.sync_api import Page
from tests.browser.conftest import WIDTHS, Bench, lay_out_the_demo
from tests.browser.test_screens import STAGES
from tests.pseudo import PSEUDO, core_words, front_end, speak

from demo import driving, shop
from demo.stories import ROUND, STORIES
from demo.world import PASSWORD, PEOPLE, WORKSHOP
from jobs.models import Job
from people.models import Workshop
from warmdraft.teardown import layout, layout_names
from warmdraft.words import UNIT_LOOK

pytestmark = [pytest.mark.django_db(transaction=True), pytest.mark.slow]  # a front end is built, every view walked

#: What is the same in every language: units, keys, a file's format, languages as they call themselves.
#: Forms of data and of paper, and what languages call themselves.
OF_THE_PAPER = ("JSON", "CSV", "PDF", "ZIP", "QR", "A4", "Letter", "Deutsch", "fran", "ais")
SAME = {look for look, _ in UNIT_LOOK.values()} | {"kWh", "EUR", "OL", "English", PSEUDO, *OF_THE_PAPER}
#: What is no word: the mark of a record, a browser's own name, and ours, which stands alone until a language is known.
NO_WORD = re.compile(r"\b[0-9a-f]{16}\b|X11; Linux x86_64|Chrome/[\d.]+|^Warm Draft$")
#: A date as the browser writes it: it has no such language, and takes its own.
DATES = re.compile(
    r"(Mon|Tues?|Wed(nes)?|Thu(rs)?|Fri|Sat(ur)?|Sun)(day)?, |"
    r"(Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)[a-z]* \d"
)
#: All that is read on a page, or read out.
TEXTS = """() => {
  const said = [document.title]
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walk.nextNode(); node; node = walk.nextNode())
    if (!node.parentElement.closest('script, style, textarea, pre')) said.push(node.textContent)
  for (const e of document.querySelectorAll('*'))
    for (const name of ['aria-label', 'title', 'placeholder', 'alt', 'aria-description'])
      if (e.hasAttribute(name)) said.push(e.getAttribute(name))
  return said
}"""


def _typed_by_people() -> list[str]:
    """What stands on the screens because somebody of the demo typed it, the longest first."""

    def strings(value) -> list[str]:
        if isinstance(value, str):
            return [value]
        rows = value.values() if isinstance(value, dict) else value if isinstance(value, list | tuple) else ()
        return [text for row in rows for text in strings(row)]

    written = [
        text
        for s in (*STORIES, *ROUND)
        for text in strings(
            (
                s.place,
                s.machine,
                s.title,
                s.said,
                s.note,
                s.told,
                [row[-1] for row in (*s.counts, *s.lines)],
                [row[1] for row in s.sounds],
            )
        )
    ]
    people = [WORKSHOP, *(text for row in PEOPLE for text in (row[0], row[1], *row[1].split()))]
    initials = ["".join(word[0] for word in row[1].split()) for row in PEOPLE]
    makers = [layout(name).maker for name in layout_names()]
    sold = [cell for row in csv.reader(io.StringIO(shop.SHEET)) for cell in row] + list(shop.THERE)
    driven = [driving.BASE, *(row[0] for row in driving.VANS)]
    named = {text for text in (*written, *people, *makers, *sold, *driven) if len(text) > 3}
    return sorted(named | set(initials), key=len, reverse=True)


@pytest.fixture(scope="module")
def built(tmp_path_factory) -> Path:
    return front_end(tmp_path_factory.mktemp("front"))


@pytest.fixture
def abroad(live_server, page: Page, built: Path, tmp_path, monkeypatch):
    """The demo of a workshop that speaks the pseudo-language, its lead signed in."""

    def files(route) -> None:
        path = urlparse(route.request.url).path
        if path.startswith("/api/"):
            return route.fallback()
        file = built / path.lstrip("/")
        file = file if file.is_file() else built / "index.html"
        return route.fulfill(body=file.read_bytes(), content_type=mimetypes.guess_type(file.name)[0] or "text/plain")

    speak(monkeypatch, core_words(tmp_path))
    monkeypatch.setattr(Workshop._meta.get_field("language"), "default", PSEUDO)
    lay_out_the_demo(PSEUDO)
    page.context.route("**/*", files)
    page.goto(live_server.url)
    page.get_by_label(re.compile("E-mail|@")).or_(page.locator("input[type=email]")).first.fill(PEOPLE[1][0])
    page.locator("input[type=password]").fill(PASSWORD)
    page.locator("button[type=submit]").click()
    page.locator("a[href='/jobs/new']").wait_for()
    return Bench(page, live_server.url, PEOPLE[1][0])


class Walk:
    """What is found in English, by view."""

    def __init__(self, bench: Bench) -> None:
        self.seen: set[str] = set()
        self.page, self.bench = bench.page, bench
        self.typed = _typed_by_people()
        self.found: dict[str, set[str]] = {}

    def english_in(self, text: str) -> list[str]:
        for written in self.typed:
            text = text.replace(written, "")
        text = NO_WORD.sub("", DATES.sub("", text))
        words = re.findall(r"[A-Za-z][A-Za-z/0-9]*", re.sub(r"m³/h|m³/s|inH2O|mmH2O|ft/min|Btu/h|m/s|L/s", "", text))
        return [word for word in words if len(word) > 1 and word not in SAME]

    def look(self, view: str) -> None:
        self.page.wait_for_timeout(150)
        for text in self.page.evaluate(TEXTS):
            if text not in self.seen and self.english_in(text):
                self.seen.add(text)
                self.found.setdefault(view, set()).add(" ".join(text.split())[:120])

    def go(self, path: str, wait: str = "main") -> None:
        self.bench.to(path)
        self.page.locator(wait).first.wait_for()
        self.page.wait_for_timeout(100)  # what is fetched beside it
        self.look(re.sub(r"[0-9a-f-]{36}", "…", path))


def _each_unlike(checks: list[dict]) -> list[str]:
    """One check of each kind that is drawn, asked or warned of in its own way."""
    unlike = {
        (row["node"], row["instrument_code"], row["swap"], row["hazard"], row["qualified"]): row for row in checks
    }
    return [row["check"] for row in unlike.values()]


def _stages(walk: Walk, job: str) -> None:
    for stage in STAGES:
        walk.go(f"{job}/{stage}")
        if stage in ("open", "close"):
            for folded in walk.page.locator("main details > summary").all():
                folded.click()
            walk.look(f"{stage}, unfolded")


def test_a_language_that_marks_every_word_leaves_no_english_on_any_view(abroad):
    page, walk = abroad.page, Walk(abroad)
    page.set_viewport_size(WIDTHS["desk"])
    for path in ("/jobs", "/jobs/new", "/people", "/layouts", "/desk", "/desk/learned", "/day", "/drills"):
        walk.go(path)
    jobs = {str(job.id): job for job in Job.objects.prefetch_related("counts", "marks")}
    at_the_bench = sorted(jobs, key=lambda job: -jobs[job].counts.count() - jobs[job].marks.count())
    for job in at_the_bench[:4]:
        _stages(walk, f"/jobs/{job}")
        walk.go(f"/jobs/{job}/history")
    for job in at_the_bench[4:]:
        for view in ("complaint", "cause", "measure?view=meter", "measure?view=run", "measure?view=heat",
                     "measure?view=log", "measure?view=sound"):  # fmt: skip
            walk.go(f"/jobs/{job}/{view}")
    checks = page.evaluate("fetch('/api/v1/vocabulary').then((r) => r.json()).then((v) => v.checks)")
    for check in _each_unlike(checks):
        walk.go(f"/jobs/{at_the_bench[-1]}/measure?check={check}")
    for job in set(Job.objects.filter(sounds__phase="after").values_list("id", flat=True)):
        walk.go(f"/jobs/{job}/prove?view=sound")
        for folded in page.locator("main details > summary").all():
            folded.click()
        walk.look("a recording, unfolded")
    for job in Job.objects.filter(carried__has_key="plan"):
        walk.go(f"/jobs/{job.id}/vent", "[data-way-card]")
        page.locator("[data-way-card] button:last-child").first.click()
        page.locator("[data-bars]").wait_for()
        for folded in page.locator("main details > summary").all():
            folded.click()
        page.locator("main table").wait_for()
        walk.look("a new run, chosen and unfolded")
        walk.go(f"/jobs/{job.id}/vent/paper", "[data-bars]")
    for job in Job.objects.filter(shut=True):
        walk.go(f"/jobs/{job.id}/record", "article")
    latest = Job.objects.filter(shut=True, machine__name="no. 1").latest("booked_for")
    walk.go(f"/jobs/{latest.id}/hand_over", "a[href*='/record/page']")
    walk.go(f"/machines/{latest.machine_id}", "figure")
    walk.go(f"/machines/{latest.machine_id}/label", "article img")
    walk.go(f"/places/{latest.machine.place_id}", "main li a")
    abroad.to("/jobs")
    page.locator("a[href='/jobs/new']").wait_for()
    for key, dialog in (("?", "keys"), ("/", "search")):
        page.keyboard.press(key)
        walk.look(dialog)
        page.keyboard.press("Escape")
    page.locator("header button").last.click()
    walk.look("settings")
    page.keyboard.press("Escape")
    walk.go("/parts", "main form")
    abroad.to("/layouts")
    page.locator("main section:last-of-type button").first.click()
    page.locator("main table").wait_for()
    walk.look("layout editor")
    abroad.to("/jobs/new")
    page.locator("select").select_option(layout_names()[3])
    walk.look("a layout's choices")
    page.locator("select + *, label:has(select) + button").first.click()
    for looked in range(9):  # each look is answered by its first answer, until it is sure
        page.locator("dialog, [role=dialog]").first.wait_for()
        walk.look(f"look {looked}")
        answers = page.locator("[role=dialog] button.chip, dialog button.chip")
        if answers.count() == 0:
            break
        answers.first.click()
    page.context.clear_cookies()
    page.goto(f"{abroad.url}/sign-in")
    for path in ("/sign-in", "/lost-password", "/new-password/a/b"):
        walk.go(path, "input")
    assert walk.found == {}, "\n".join(f"{view}: {sorted(texts)}" for view, texts in walk.found.items())


def test_nor_on_a_phone(abroad):
    page, walk = abroad.page, Walk(abroad)
    page.set_viewport_size(WIDTHS["phone"])
    walk.go("/jobs")
    job = max(Job.objects.all(), key=lambda job: job.counts.count())
    _stages(walk, f"/jobs/{job.id}")
    page.locator("div.fixed button").first.click()
    walk.look("stages")
    assert walk.found == {}, "\n".join(f"{view}: {sorted(texts)}" for view, texts in walk.found.items())
