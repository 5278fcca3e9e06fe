"""Words of single codes, for a language whose tables stand in data/words."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from warmdraft.checks import CHECK_FILES, Check, checks, instrument_names
from warmdraft.tables import texts
from warmdraft.vent import CodeProfile
from warmdraft.words.numbers import Numbers
from warmdraft.words.protocol import Sentences


def plain(value: object) -> str:
    """A code that nobody has words for, as it can be read."""
    return str(value or "").replace("_", " ").replace(".", ": ")


class Codes(Numbers):
    """Codes into words, by tables; what kinds of codes there are says the protocol."""

    def texts(self, table: str) -> Mapping[str, Any]:
        """One of our tables with its texts in this language."""
        return texts(table, self.language)

    def word(self, kind: str, code: str) -> str:
        """The words of a code; kind: a table of words/…/codes.toml."""
        return str(self.texts("codes")[kind][code])

    def thing(self, kind: str, name: str) -> str:
        """A thing at the bench by its code; kind: a table of hardware.toml. A name that is no code is its own word."""
        return str(self.texts("hardware")[kind].get(name, name.replace("_", " ")))

    def fastener_kind(self, kind: str, count: int) -> str:
        """So many of a kind of fastener, without the number; a kind of somebody's own by its own name."""
        row = self.texts("hardware")["fastener"].get(kind)
        return kind if row is None else str(row["one" if count == 1 else "many"])

    def fault(self, name: str) -> str:
        """A fault's name."""
        return str(self.texts("faults")[name]["words"])

    def reading(self, kind: str) -> str:
        """A kind of reading within a sentence; one that is only logged too."""
        row = self.texts("readings").get(kind)
        return plain(kind) if row is None else str(row["words"])

    def fault_within(self, name: str) -> str:
        """A fault's name within a sentence."""
        return self.fault(name).lower()

    def complaint(self, name: str) -> str:
        """A complaint as people say it."""
        row = self.texts("complaints").get(name)
        return plain(name) if row is None else str(row["words"])

    def circumstance(self, name: str) -> str:
        """A circumstance as people say it."""
        return str(self.texts("circumstances")[name]["words"])

    def result(self, check: str, result: str) -> str:
        """The result of a check; one that nobody has words for as it can be read."""
        own = self.check_words(check).get("results", {}) if check in checks() else {}
        return str((own | self.texts("codes")["result"]).get(result, plain(result)))

    def stop(self, complaint: str) -> str:
        """What a complaint asks for before anything else."""
        return str(self.texts("complaints")[complaint]["stop"])

    def check(self, name: str) -> str:
        """What to do, as it stands on a button."""
        return str(self.check_words(name)["do"])

    def check_words(self, name: str) -> Mapping[str, Any]:
        """do: as it stands on a button; how: what hands and eyes do; node: where; results: their words."""
        words: Mapping[str, Any] | None = next(
            (rows[name] for file in CHECK_FILES if name in (rows := self.texts(f"checks/{file}"))), None
        )
        return self.texts("readings")[name]["check"] if words is None else words

    def hazard(self, check: Check) -> str:
        """What to mind, where the hands are; before a swap more than elsewhere."""
        said = self.word("hazard", check.hazard)
        return f"{said} {self.word('hazard', 'swap')}".strip() if check.swap else said

    def instrument(self, name: str) -> str:
        """What a check is done with: an instrument, or a sense."""
        if name in instrument_names():
            return str(self.texts("instruments")[name]["words"])
        return self.word("sense", name)

    def meter_part(self, name: str) -> str:
        """An electrical part's name."""
        row = self.texts("meter").get(name)
        return plain(name) if row is None else str(row["words"])

    def driver(self, driver: str) -> str:
        """A driver in words; one of somebody's own layout by the name it has there."""
        row = self.texts("drivers").get(driver)
        return str(row["text"]) if row else driver

    def profile(self, name: str) -> str:
        """A machine to start from."""
        return str(self.texts("profiles")[name]["title"])

    def code_profile(self, profile: CodeProfile) -> Sentences:
        """A code profile's title, and whose it is; one of somebody's own by what it says itself."""
        row = self.texts("code_profiles").get(profile.name)
        return Sentences(profile.title, profile.source) if row is None else Sentences(row["title"], row["source"])

    def area(self, area: str) -> str:
        """An area of a machine."""
        return str(self.texts("bench")["area"].get(area, area.replace("_", " ").capitalize()))

    def wire(self, device: str, terminal: str) -> str:
        """A wire by its device and terminal."""
        return f"{self.thing('device', device)} · {self.thing('terminal', terminal)}"

    def one_of(self, names: Iterable[str]) -> str:
        """A list as people say it: "run, transition or hood"."""
        return self._joined(list(names), "or")

    def all_of(self, names: Sequence[str], most: int = 0) -> str:
        """The same with "and"; of more than `most` only so many are named."""
        more = len(names) - most if most else 0
        shown = [*names[:most], self.word("join", "more").format(number=more)] if more > 0 else list(names)
        return self._joined(shown, "and")

    def _joined(self, words: list[str], last: str) -> str:
        if len(words) < 2:
            return "".join(words)
        return f"{', '.join(words[:-1])}{self.word('join', last)}{words[-1]}"
