"""`python -m warmdraft.catalogues LANGUAGE FOLDER`: begin a language, or see how far it is.

Writes below FOLDER/LANGUAGE each table of words that is not there yet, in English, to be said in the language; prints
what is missing, or stands in English still. Point WARM_WORDS to FOLDER, or let FOLDER be data/words.
"""

from __future__ import annotations

import os
import re
import sys
from pathlib import Path

from warmdraft.catalogues.say import as_toml, said_tables, still_ours, to_say, unsaid
from warmdraft.errors import CatalogueError
from warmdraft.tables import OTHER_LANGUAGES

_CODE = re.compile(r"[a-z]{2,3}(-[A-Za-z0-9]{2,8})*")


def main(arguments: list[str]) -> int:
    """Begin a language below a folder, or say how far it is; 1 where a file of it is wrong."""
    if len(arguments) != 2 or not _CODE.fullmatch(arguments[0]):
        print("give a language's code and a folder, such as: de words", file=sys.stderr)
        return 2
    language, folder = arguments[0], Path(arguments[1])
    os.environ[OTHER_LANGUAGES] = str(folder)
    for name in said_tables():
        file = folder / language / f"{name}.toml"
        if not file.exists():
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(as_toml(to_say(name)), encoding="utf-8")
    try:
        missing, ours = unsaid(language), still_ours(language)
    except CatalogueError as error:
        print(error, file=sys.stderr)
        return 1
    for line in missing:
        print(f"missing: {line}")
    for name, number in ours.items():
        print(f"{name}.toml: {number} texts stand in English")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
