"""What can be wrong with what somebody gave us.

    WarmdraftError
    ├── UnitError        a number with a unit that does not fit, or cannot be read
    ├── MachineError     a machine that cannot exist
    ├── VentError        a vent run that cannot exist
    ├── DrillError       a training case that no machine can be
    ├── DayError         a day that no workshop can have
    ├── CutError         a piece that is longer than what it is cut from
    ├── CatalogueError   our own data files contradict themselves
    ├── LayoutError      a way into a machine that does not exist, or a layout that contradicts itself
    └── DocumentError    a file that breaks its format; knows where (`path`)

Bad input raises. Bad news (readings that fit no hypothesis) is a result, not an error.
"""

from __future__ import annotations


class WarmdraftError(Exception):
    """Base of all errors of the core."""


class UnitError(WarmdraftError):
    """A quantity whose unit or number cannot be used."""


class MachineError(WarmdraftError):
    """A machine that no workshop will ever meet."""


class VentError(WarmdraftError):
    """A vent run that cannot be built."""


class BalanceError(WarmdraftError):
    """Runs that do not tell where a wheel is out of balance."""


class SealError(WarmdraftError):
    """An edge or a lap that no dryer has."""


class DrillError(WarmdraftError):
    """A training case that cannot be, or asks what it cannot answer."""


class DayError(WarmdraftError):
    """A day whose stops, vans and minutes do not go together."""


class CutError(WarmdraftError):
    """A piece that no stock is long enough for. piece: its number."""

    def __init__(self, message: str, piece: int) -> None:
        self.piece = piece
        super().__init__(message)


class CatalogueError(WarmdraftError):
    """One of our own data files contradicts itself."""


class LayoutError(WarmdraftError):
    """A layout that contradicts itself, or a part that no way reaches. at: where in its operations, as `[2].needs`."""

    def __init__(self, message: str, at: str = "") -> None:
        self.at = at
        super().__init__(message)


class DocumentError(WarmdraftError):
    """A document that breaks its format.

    path: where, as `$.readings[2].unit`; message: what was given, what is wanted, what to do.
    """

    def __init__(self, path: str, message: str) -> None:
        self.path = path
        self.message = " ".join(message.split())  # one line, whatever was quoted from the file
        super().__init__(f"{self.path}: {self.message}")
