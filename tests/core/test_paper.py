"""The customer's record: in the customer's language, whole, with what is known and nothing else."""

import re
from datetime import date
from decimal import Decimal

import pytest

from warmdraft.errors import CatalogueError
from warmdraft.jobfile import read_job
from warmdraft.paper import (
    About,
    advice_for,
    customer_languages,
    paper_of,
    says,
    says_for,
    source_texts,
)
from warmdraft.repair import acts
from warmdraft.tables import table
from warmdraft.upkeep import Kept, Visit, upkeep
from warmdraft.work import state_of
from warmdraft.work.cost import Tariff, saved_of, saving_of

TODAY = date(2026, 11, 27)
TARIFF = Tariff(9, Decimal("0.31"), "EUR")
ABOUT = About("Skellmere dryers", "Ines Farrow", ("Otter Ness kennels", "2 Ness Lane"), "left machine", TODAY)
UPKEEP = upkeep(Kept((Visit(TODAY, 0.5, 0.98),), loads_per_week=20))
STEPS = [step.id for step in acts()["transition.replace"].steps]
PLACEHOLDER = re.compile(r"{\w+}")


def state(**changes):
    return state_of(read_job({
        "format": "warm-draft/job", "version": 1, "complaints": ["long_drying"], "circumstances": ["pets"],
        "readings": [
            {"kind": "outlet_flow", "value": 80, "unit": "cfm"},
            {"kind": "outlet_static_pressure", "value": 330, "unit": "Pa"},
            {"kind": "outlet_flow", "value": 166, "unit": "cfm", "phase": "after"},
            {"kind": "outlet_static_pressure", "value": 96, "unit": "Pa", "phase": "after"},
        ],
        "confirmed": [{"fault": "transition_crushed"}], "causes": [{"kind": "working", "fault": "transition_crushed"}],
        "marks": [{"step": f"mend.{step}", "state": "done"} for step in STEPS],
    } | changes).facts)  # fmt: skip


def text_of(paper):
    parts = [paper.title, *paper.lines]
    for section in paper.sections:
        parts += [section.title, section.strong, *section.texts, *section.points, *(text for _, text in section.run)]
        parts += [cell for row in (section.table.rows if section.table else []) for cell in row]
    return "\n".join(parts)


OTHERS = [language for language in customer_languages() if language != "en"]


def test_there_are_two_languages_beside_ours():
    assert len(OTHERS) >= 2


@pytest.mark.parametrize("language", OTHERS)
def test_a_language_says_all_there_is_to_say_with_the_same_numbers_in_it(language):
    said = says._catalogue(language)
    for text in source_texts():
        assert text in said, text
        assert sorted(PLACEHOLDER.findall(said[text])) == sorted(PLACEHOLDER.findall(text)), text
    assert set(said) == set(source_texts())  # and nothing that nobody says any more


@pytest.mark.parametrize("language", OTHERS)
def test_nothing_of_ours_is_left_in_another_language(language):
    ours = {text for text in source_texts() if len(text) > 12 and not PLACEHOLDER.search(text)}
    paper = text_of(paper_of(state(), ABOUT, UPKEEP, TARIFF, says_for(language)))
    assert [text for text in ours if text in paper] == []


def test_a_third_language_is_a_file(monkeypatch, tmp_path):
    folder = tmp_path / "nl"
    folder.mkdir()
    (folder / "customer.po").write_text('msgid ""\nmsgstr ""\n\nmsgid "What was done"\nmsgstr "Wat er is gedaan"\n')
    monkeypatch.setenv("WARM_WORDS", str(tmp_path))
    for cached in (says.customer_languages, says._catalogue, says.says_for):
        cached.cache_clear()
    try:
        assert says.customer_languages()["nl"] == "Nederlands"
        dutch = says.says_for("nl")
        assert (dutch("heading", "done"), dutch("heading", "wrong")) == ("Wat er is gedaan", "What was wrong")
        (tmp_path / "qqzz").mkdir()
        (tmp_path / "qqzz" / "customer.po").write_text("")
        says.customer_languages.cache_clear()
        with pytest.raises(CatalogueError, match="'qqzz' is no language"):
            says.customer_languages()
    finally:
        for cached in (says.customer_languages, says._catalogue, says.says_for):
            cached.cache_clear()


def test_a_language_that_is_not_there_is_refused_with_those_that_are():
    with pytest.raises(CatalogueError, match="give one of en, de"):
        says_for("xx")


def test_it_says_what_was_wrong_done_measured_and_when_next():
    paper = paper_of(state(), ABOUT, UPKEEP, TARIFF, says_for("en", (("flow", "cfm"),)))
    parts = {section.name: section for section in paper.sections}
    assert parts["wrong"].strong == "The short duct behind the machine was crushed."
    assert parts["done"].points == ["Duct behind the machine: replaced"]
    assert parts["measured"].strong.startswith("Proven by measuring")
    assert "166 cfm of air, 80 cfm before the work" in parts["measured"].texts[0]
    assert [bar.share for bar in parts["measured"].bars][-1] == 1  # a healthy one is the longest
    assert parts["next"].strong == f"Please have it serviced by {says_for('en').day(UPKEEP.service_by)}."
    assert "not_done" not in parts


def test_what_was_left_undone_says_why():
    declined = [{"step": "line.transition.replace", "state": "declined", "why": "too dear"}]
    paper = paper_of(state(marks=declined), ABOUT, None, TARIFF, says_for("en"))
    parts = {section.name: section for section in paper.sections}
    assert "Duct behind the machine: not replaced (too dear)" in parts["not_done"].points
    assert parts["done"].texts[0] == "No repair is recorded."


def test_a_machine_that_is_still_too_hot_is_not_to_be_used():
    poor = [{"kind": "outlet_flow", "value": 80, "unit": "cfm"},
            {"kind": "outlet_flow", "value": 90, "unit": "cfm", "phase": "after"}]  # fmt: skip
    paper = paper_of(state(complaints=["overheats"], readings=poor), ABOUT, None, TARIFF, says_for("en"))
    safety = next(section for section in paper.sections if section.name == "safety")
    assert safety.strong.startswith("It got too hot")


def test_numbers_and_days_are_written_as_the_language_writes_them():
    german, english = says_for("de"), says_for("en")
    assert (german.number(1234.5, 1), english.number(1234.5, 1)) == ("1.234,5", "1,234.5")
    assert german.day(TODAY) == "27. November 2026"
    assert german.money(Decimal("11.4"), "EUR", whole=True).replace("\xa0", " ") == "11 €"


def test_what_it_saves_is_the_loads_energy_before_less_after_by_the_tariff():
    found = saved_of(state(), TARIFF)
    assert found is not None
    assert found.minutes_before > found.minutes_after
    assert found.money_a_year == (Decimal(f"{found.kwh_a_year:.3f}") * TARIFF.per_kwh).quantize(Decimal(1))
    twice = saved_of(state(), Tariff(18, None, "EUR"))
    assert twice.kwh_a_year == pytest.approx(2 * found.kwh_a_year)
    assert twice.money_a_year is None
    assert saved_of(state(readings=[]), TARIFF) is None


@pytest.mark.parametrize("circumstance", table("circumstances"))
def test_advice_follows_from_what_is_known(circumstance):
    always = {name for name, row in table("advice").items() if row.get("always")}
    assert always <= set(advice_for([circumstance], []))


@pytest.mark.parametrize(
    ("kind", "codes"),
    [
        ("complaint", set(table("complaints"))),
        ("fault", set(table("faults"))),
        ("part", {act.part for act in acts().values()}),
    ],
)
def test_everything_of_ours_can_be_said_to_a_customer(kind, codes):
    assert codes == set(table("customer")[kind])


def test_a_fault_that_nobody_has_plain_words_for_is_called_by_its_name(monkeypatch):
    monkeypatch.delitem(table("customer")["fault"], "transition_crushed")
    paper = paper_of(state(), ABOUT, None, TARIFF, says_for("de"))
    assert paper.sections[0].strong == "Transition crushed"


def test_what_the_work_is_expected_to_save_pays_for_it_in_so_many_years():
    before = [{"kind": "outlet_flow", "value": 80, "unit": "cfm"}]
    found = saving_of(state(readings=before), TARIFF)
    assert found is not None
    assert found.years_to_pay(found.money_a_year * 4) == pytest.approx(4)
    assert saving_of(state(readings=before), Tariff(9, None, "EUR")).years_to_pay(Decimal(100)) is None
    assert saving_of(state(readings=[]), TARIFF) is None
