"""The customer's record as HTML and PDF: one template, filled from what the record froze."""

import base64
import hashlib
import io
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any, Literal
from uuid import UUID

import segno
from django.conf import settings
from django.db import IntegrityError, transaction
from django.template import Context, Engine

from files.models import Picture
from people.may import Member
from people.tokens import open_token
from reports.models import Link, Print, Record
from stock.figures import figures_of
from upkeep.models import Visit
from upkeep.services import upkeep_with
from warmdraft.paper import About, customer_languages, language_for, paper_of, says_for
from warmdraft.units import Dimension
from warmdraft.work import JobState
from warmdraft.work.cost import Tariff

Size = Literal["A4", "Letter"]
#: The picture of before and after: where bars begin, how long the longest is, what a row takes, in its own units.
_FROM, _LONGEST, _ROW = 132.0, 230.0, 30.0
#: What was before, what is since, what would be healthy.
_FILLS = ("#d8d3c8", "#1f6f43", "#b9c9b4")
TEMPLATES = Engine(dirs=[str(Path(__file__).parent / "templates")], autoescape=True)


def papers_of(
    state: JobState, about: About, visit: Visit, who: Member, units: dict[Dimension, str]
) -> dict[str, dict[str, Any]]:  # fmt: skip
    """The paper in every language there is, as a record freezes it. units: as who hands over reads them."""
    figures = figures_of(who.workshop)
    tariff = Tariff(visit.loads_per_week, figures.kwh, figures.currency)
    upkeep = upkeep_with(visit.machine, visit) if state.proof.measured or state.confirmed else None
    habits = tuple(sorted(units.items()))
    made = (paper_of(state, about, upkeep, tariff, says_for(language, habits)) for language in customer_languages())
    return {paper.language: asdict(paper) for paper in made}


def paper_in(record: Record, language: str) -> dict[str, Any] | None:
    """A record's paper in a language, or in the one it was handed over in; None for a record of an earlier release."""
    papers = record.snapshot.get("papers") or {}
    return papers.get(language) or papers.get(record.language) or next(iter(papers.values()), None)


def font() -> str:
    """The screens' font as a file of the build; empty where there is none: then Debian's stands in."""
    found = sorted((settings.WEB_DIST / "assets").glob("*-latin-wght-normal*.woff2"))
    return found[0].name if found else ""


def style(fonts: str) -> str:
    """The paper's style sheet; fonts: the address that a font's name is added to."""
    name = font()
    return TEMPLATES.get_template("paper.css").render(Context({"font": f"{fonts}{name}" if name else ""}))


def qr(text: str) -> str:
    """A QR code as SVG: error correction M, four modules of margin."""
    out = io.BytesIO()
    segno.make(text, error="m", micro=False).save(out, kind="svg", scale=4, border=4, xmldecl=False, svgns=True,
                                                  nl=False, omitsize=True)  # fmt: skip
    return out.getvalue().decode()


def link_of(job_id: UUID) -> Link | None:
    """The way to a job's record that is open now, if any."""
    return open_token(Link, job=job_id)


def address_of(link: Link) -> str:
    """Where whoever has the link reads the record."""
    return f"{settings.ADDRESS}/r/{link.token}"


@dataclass(frozen=True)
class OnTheWeb:
    """What the page of a link shows beside the paper."""

    style: str = ""
    photos: str = ""
    others: tuple[tuple[str, str], ...] = ()
    pdf: str = ""
    calendar: str = ""


def html(record: Record, language: str, web: OnTheWeb | None = None, link: Link | None = None) -> str:
    """The paper as a page. web: as it is read by a link, photos by their addresses; else whole in itself."""
    paper = paper_in(record, language)
    if paper is None:
        raise LookupError("this record was frozen before there were papers; open the job again for a new edition")
    says = says_for(language_for(paper["language"]))
    checksum = paper["checksum"].format(
        sha=record.sha256[:16], edition=record.edition, day=says.day(record.workshop.day_of(record.frozen_at))
    )
    address = address_of(link) if link else ""
    return TEMPLATES.get_template("paper.html").render(Context({
        "paper": paper | {"sections": [_laid(section) for section in paper["sections"]]},
        "style": web.style if web else "", "others": web.others if web else (),
        "pdf": web.pdf if web else "", "pdf_text": says("reminder", "paper"),
        "calendar": web.calendar if web else "", "calendar_text": says("reminder", "calendar"),
        "photos": _photos(record, web.photos if web else None), "signature": record.snapshot.get("signature") or {},
        "qr": qr(address) if address else "", "address": address, "checksum": checksum,
    }))  # fmt: skip


def _laid(section: dict[str, Any]) -> dict[str, Any]:
    """A section with the places of its bars."""
    bars = [_bar(bar, row) for row, bar in enumerate(section["bars"])]
    low, limit = _ROW * len(bars), section["limit"]
    laid = limit and limit | {"x": round(_FROM + limit["share"] * _LONGEST, 1), "y": low, "text_y": low + 16}
    return section | {"bars": bars, "limit": laid, "height": low + (24 if limit else 4)}


def _bar(bar: dict[str, Any], row: int) -> dict[str, Any]:
    width = round(max(bar["share"], 0.01) * _LONGEST, 1)
    return bar | {
        "fill": _FILLS[row % len(_FILLS)], "y": _ROW * row + 4, "text_y": _ROW * row + 20, "width": width,
        "value_x": _FROM + _LONGEST + 10,
    }  # fmt: skip


def photos_of(record: Record) -> list[tuple[str, str]]:
    """The photos that a record shows: the hash of each, and what it is of."""
    return [(str(photo["url"]).rsplit("/", 1)[-1], photo["of"]) for photo in record.snapshot.get("photos") or []]


def _photos(record: Record, address: str | None) -> list[dict[str, str]]:
    """As a page shows them. address: where they are found by their hash; None: each whole in the page."""
    chosen = photos_of(record)
    if address is not None:
        return [{"src": address + sha256, "of": of} for sha256, of in chosen]
    pictures = Picture.objects.filter(workshop=record.workshop_id, sha256__in=[sha256 for sha256, _ in chosen])
    whole = {row.sha256: f"data:image/jpeg;base64,{base64.b64encode(row.content()).decode()}" for row in pictures}
    return [{"src": whole[sha256], "of": of} for sha256, of in chosen if sha256 in whole]


def _assets() -> str:
    """Where the build's files lie, as an address."""
    return (settings.WEB_DIST / "assets").resolve().as_uri() + "/"


def laid_out(record: Record, language: str, size: str) -> Any:
    """The paper as weasyprint's document of pages. Takes a second or two: the worker's work."""
    from weasyprint import CSS, HTML  # comes with fonts and layout: not for who never prints
    from weasyprint.text.fonts import FontConfiguration

    fonts, fetches = FontConfiguration(), _nothing_from_outside()
    sheets = [
        CSS(string=text, url_fetcher=fetches, font_config=fonts)
        for text in (style(_assets()), f"@page {{ size: {size} }}")
    ]
    page = html(record, language, link=link_of(record.job_id))
    whole = HTML(string=page, base_url="about:blank", url_fetcher=fetches)
    return whole.render(stylesheets=sheets, font_config=fonts)


def _nothing_from_outside() -> Any:
    """A paper holds what it shows: nothing is fetched for it but its font."""
    from weasyprint import URLFetcher

    class OwnFontOnly(URLFetcher):  # type: ignore[misc]  # it has no types
        """Fetches what stands in the page, and the build's files."""

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> Any:
            """As its base does. Raises ValueError for any other address."""
            if not url.startswith(("data:", _assets())):
                raise ValueError("a paper fetches nothing")
            return super().fetch(url, headers)

    return OwnFontOnly(allowed_protocols={"data", "file"})


def print_of(record: Record, language: str, size: str) -> Print | None:
    """A print that was made already."""
    return Print.objects.filter(record=record, language=language, size=size).first()


def make_print(record_id: UUID, language: str, size: str) -> None:
    """Print a record and keep it, once."""
    record = Record.objects.select_related("job", "workshop").filter(id=record_id).first()
    if record is None or paper_in(record, language) is None or print_of(record, language, size) is not None:
        return
    data = bytes(laid_out(record, language, size).write_pdf())
    try:
        with transaction.atomic():
            Print.objects.create(
                record=record, language=language, size=size, pdf=data, sha256=hashlib.sha256(data).hexdigest()
            )
    except IntegrityError:  # another worker was quicker; what it made stands
        return
