"""Each of our tables by name, with the shape of the whole of it."""

from __future__ import annotations

from functools import cache
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, Field

from warmdraft.catalogues.judged import (
    CheckRow,
    CircumstanceRow,
    ComplaintRow,
    FaultRow,
    InstrumentRow,
    LegRow,
    ProvingRow,
    ReadingRow,
    RungRow,
)
from warmdraft.catalogues.names import Row
from warmdraft.catalogues.opened import DrawnRow, LayoutTable, OperationRow
from warmdraft.catalogues.said import (
    AdviceRow,
    BenchTable,
    CodesTable,
    CustomerTable,
    DrillTable,
    LearningTable,
    MendingTable,
    MeterWordsTable,
    PeopleTable,
    SoundTable,
    StockTable,
    UpkeepTable,
    VentTable,
)
from warmdraft.catalogues.trade import (
    ActRow,
    ClosingRow,
    CodeProfileRow,
    DriverRow,
    DuctStockRow,
    HardwareTable,
    LatchRow,
    MeterRow,
    PlanThingRow,
    ProfileRow,
    QuestionRow,
    SafetyRow,
    SupplyRow,
    TradeWords,
    _act_name,
)
from warmdraft.checks import CHECK_FILES
from warmdraft.teardown import layout_names


class CurrenciesTable(Row):
    """Digits behind the point of a currency, by its code; `others`: of all that are not named."""

    digits: dict[Annotated[str, Field(pattern="^([A-Z]{3}|others)$")], Annotated[int, Field(ge=0, le=4)]]


def rows_of(row: type[BaseModel]) -> Any:
    """A table of rows by name."""
    return dict[str, row]  # type: ignore[valid-type]


@cache
def tables() -> dict[str, Any]:
    """Every table there is, by name, with the type of the whole of it."""
    of_rows: dict[str, Any] = {
        "faults": FaultRow, "readings": ReadingRow, "getting_there": LegRow, "instruments": InstrumentRow,
        "circumstances": CircumstanceRow, "complaints": ComplaintRow, "safety": SafetyRow, "closing": ClosingRow,
        "latches": LatchRow, "drivers": DriverRow, "operations": OperationRow, "meter": MeterRow,
        "supplies": SupplyRow, "code_profiles": CodeProfileRow, "recognise": QuestionRow, "profiles": ProfileRow,
        "drawn": DrawnRow, "plan_things": PlanThingRow, "duct_stock": DuctStockRow, "proving": ProvingRow,
        "advice": AdviceRow, "ladder": RungRow,
    } | {f"checks/{file}": CheckRow for file in CHECK_FILES}  # fmt: skip
    whole: dict[str, Any] = {
        "currencies": CurrenciesTable, "hardware": HardwareTable, "trade_words": TradeWords,
        "customer": CustomerTable, "words/en/codes": CodesTable,
        "words/en/bench": BenchTable, "words/en/meter_words": MeterWordsTable, "words/en/vent": VentTable,
        "words/en/sound": SoundTable, "words/en/mending": MendingTable, "words/en/stock": StockTable,
        "words/en/people": PeopleTable, "words/en/upkeep": UpkeepTable,
        "words/en/learning": LearningTable,
        "words/en/drill": DrillTable,
        "acts": dict[Annotated[str, AfterValidator(_act_name)], ActRow],
    } | {f"layouts/{name}": LayoutTable for name in layout_names()}  # fmt: skip
    return {name: rows_of(row) for name, row in of_rows.items()} | whole
