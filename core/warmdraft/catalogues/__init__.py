"""Our own tables guard themselves: one strict shape each, checked in the tests and when a server starts.

On top of jobfile. What computes reads the tables themselves and takes their shape for right.
"""

from warmdraft.catalogues.check import catalogue_errors, check_catalogues
from warmdraft.catalogues.rows import tables
from warmdraft.catalogues.say import as_toml, said_tables, to_say, unsaid

__all__ = ["as_toml", "catalogue_errors", "check_catalogues", "said_tables", "tables", "to_say", "unsaid"]
