"""Connections beside Django's pool, and how long a worker may be silent."""

from typing import Any

from django.conf import settings
from django.db import connection

#: A worker without a sign of life for so long is none, and its jobs are somebody else's, s.
WORKER_GONE_AFTER = 6 * settings.HEARTBEAT


def connection_parts() -> dict[str, Any]:
    """What a connection outside Django's pool is made with."""
    parts = connection.get_connection_params()
    return {key: parts[key] for key in ("dbname", "user", "password", "host", "port") if parts.get(key)}
