"""What a customer reads, in the customer's language: our English texts are the keys of one gettext file a language.

Another language is one more file: `data/customer/xx.po`, or `xx/customer.po` in the folder of other words. What it does
not say yet stands in English.
"""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable
from pathlib import Path

from babel import Locale, UnknownLocaleError
from babel.dates import format_date
from babel.messages.pofile import PoFileError, read_po
from babel.numbers import format_currency, format_decimal, parse_pattern

from warmdraft.errors import CatalogueError
from warmdraft.tables import OTHER_LANGUAGES, SOURCE_LANGUAGE, table
from warmdraft.units import UNITS, Dimension, from_si
from warmdraft.words import UNIT_LOOK, UnitHabits
from warmdraft.words.numbers import Numbers

_FILE = "customer.po"


def _files() -> dict[str, Traversable]:
    ours = resources.files("warmdraft").joinpath("data", "customer")
    found: dict[str, Traversable] = {
        file.name.removesuffix(".po"): file for file in ours.iterdir() if file.name.endswith(".po")
    }
    others = os.environ.get(OTHER_LANGUAGES)
    for folder in sorted(Path(others).iterdir()) if others and Path(others).is_dir() else ():
        if (folder / _FILE).is_file():
            found[folder.name] = folder / _FILE
    return found


@cache
def customer_languages() -> dict[str, str]:
    """Languages a customer's record can be had in, ours first: what each calls itself, by its code.

    Raises CatalogueError for a file that is not named by a language.

    >>> customer_languages()["de"]
    'Deutsch'
    """
    found = {}
    for code in (SOURCE_LANGUAGE, *sorted(_files())):
        try:
            own = Locale.parse(code, sep="-").get_display_name(code)
        except (UnknownLocaleError, ValueError):
            raise CatalogueError(f"'{code}' is no language; name its file by a code such as de or pt-BR") from None
        found[code] = own or code
    return found


@cache
def _catalogue(language: str) -> Mapping[str, str]:
    """What a language says for each of our texts that it has words for."""
    if language == SOURCE_LANGUAGE:
        return {}
    with _files()[language].open("rb") as file:
        try:
            read = read_po(file, abort_invalid=True)
        except (PoFileError, ValueError) as error:
            raise CatalogueError(f"{language}: {_FILE} cannot be read ({error}); mend it or take it away") from None
    return {str(row.id): str(row.string) for row in read if row.id and row.string and not row.fuzzy}


def source_texts() -> Iterator[str]:
    """Every text there is to say, in our own language."""
    for kind in table("customer").values():
        yield from kind.values()


@dataclass(frozen=True, slots=True)
class Says:
    """A language, and the units its customers read. Numbers, days and money as that language writes them."""

    language: str
    habits: UnitHabits

    def __call__(self, kind: str, code: str, **values: object) -> str:
        """A text of customer.toml. Raises KeyError for one that does not stand there."""
        text = str(table("customer")[kind][code])
        return _catalogue(self.language).get(text, text).format(**values)

    def knows(self, kind: str, code: str) -> bool:
        """Whether there is such a text."""
        return code in table("customer").get(kind, {})

    def number(self, value: float, digits: int = 0) -> str:
        """A number with so many digits behind its point."""
        return str(format_decimal(Decimal(f"{value:.{digits}f}"), format=f"#,##0.{'0' * digits}" if digits else "#,##0",
                                  locale=self._locale))  # fmt: skip

    def quantity(self, value: float, dimension: Dimension) -> str:
        """Number and unit, from the canonical unit."""
        unit = self.habits.get(dimension, UNITS[dimension].canonical)
        look, digits = UNIT_LOOK[unit]
        return f"{self.number(from_si(value, unit, dimension), digits)} {look}"

    def along(self, metres: float) -> str:
        """A length along a run, in feet or metres."""
        unit = Numbers(self.habits).way_unit()
        return f"{self.number(from_si(metres, unit, 'length'), 1)} {unit}"

    def day(self, day: date) -> str:
        """A day in words."""
        return str(format_date(day, format="long", locale=self._locale))

    def money(self, amount: Decimal, currency: str, whole: bool = False) -> str:
        """An amount as it is written there. whole: without what is smaller than the unit, where nobody knows that."""
        if not whole:
            return str(format_currency(amount, currency, locale=self._locale))
        pattern = parse_pattern(self._locale.currency_formats["standard"].pattern)
        pattern.frac_prec = (0, 0)
        return str(pattern.apply(amount, self._locale, currency, currency_digits=False))

    @property
    def _locale(self) -> Locale:
        return Locale.parse(self.language, sep="-")


def language_for(*wanted: str) -> str:
    """The first of these that a record can be had in; ours where it can be had in none of them.

    >>> language_for("xx", "de", "fr"), language_for("")
    ('de', 'en')
    """
    return next((code for code in wanted if code in customer_languages()), SOURCE_LANGUAGE)


@cache
def says_for(language: str, habits: tuple[tuple[Dimension, str], ...] = ()) -> Says:
    """The words of a customer's language. Raises CatalogueError for one that there is not.

    >>> says_for("de")("heading", "done")
    'Was gemacht wurde'
    """
    if language not in customer_languages():
        raise CatalogueError(f"'{language}' is no language here; give one of {', '.join(customer_languages())}")
    return Says(language, dict(habits))
