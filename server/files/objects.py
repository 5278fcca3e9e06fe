"""Where pictures and recordings lie: in the database, or in a store of objects beside it (WARM_OBJECTS).

One interface, by obstore: any bucket that speaks S3, or a folder. Every object is its workshop's, and called by what is
in it, so that it is written once and never changed.
"""

from functools import lru_cache
from typing import Any
from urllib.parse import urlsplit

import obstore
from django.conf import settings
from obstore.exceptions import BaseError
from obstore.store import LocalStore, from_url

from shared.problems import ApiError


class Away(ApiError):
    """The store does not answer, or has lost something."""

    def __init__(self) -> None:
        super().__init__(503, "store_away", "Photos and recordings cannot be reached at this moment; try again.")


@lru_cache(maxsize=4)
def _store(address: str) -> Any:
    return LocalStore(urlsplit(address).path, mkdir=True) if address.startswith("file:") else from_url(address)


def store() -> Any:
    """The store of objects; None where all is in the database. Raises Away."""
    try:
        return _store(settings.OBJECTS) if settings.OBJECTS else None
    except (BaseError, OSError):
        raise Away from None


def put(key: str, data: bytes) -> None:
    """Keep an object. Raises Away."""
    try:
        obstore.put(store(), key, data)
    except (BaseError, OSError):
        raise Away from None


def get(key: str) -> bytes:
    """An object's bytes. Raises Away: what a row names is there, or the store is not what it was."""
    try:
        return bytes(obstore.get(store(), key).bytes())
    except (BaseError, OSError):
        raise Away from None


def delete(key: str) -> None:
    """Let an object go; nothing where it is gone. Raises Away."""
    try:
        obstore.delete(store(), key)
    except FileNotFoundError:
        return
    except (BaseError, OSError):
        raise Away from None
