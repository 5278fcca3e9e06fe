"""Write web/openapi.json from the API as it is; the TypeScript types are generated from it."""

import json
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
os.environ.setdefault("DATABASE_URL", "postgres://nobody@127.0.0.1/none")  # never connected to
os.environ.setdefault("WARM_SECRET_KEY", "only to write the schema")
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]

import django  # noqa: E402

django.setup()

from config.api import api  # noqa: E402

target = ROOT / "web" / "openapi.json"
target.write_text(json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True) + "\n")
