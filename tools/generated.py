"""Write the files that are generated from code: the API's schema, its TypeScript types, the formats' JSON Schemas.

With --check: say which of them are not current, and leave them as they are.
"""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]

import os  # noqa: E402

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
os.environ.setdefault("DATABASE_URL", "postgres://nobody@127.0.0.1/none")  # never connected to
os.environ.setdefault("WARM_SECRET_KEY", "only to write the schema")

import django  # noqa: E402

django.setup()

from config.api import api  # noqa: E402
from warmdraft.jobfile import SCHEMAS  # noqa: E402


def _json(value: object) -> str:
    return json.dumps(value, indent=1, sort_keys=True, ensure_ascii=False) + "\n"


def generated(folder: Path) -> dict[Path, str]:
    """Path in the project -> what it should hold."""
    openapi = _json(api.get_openapi_schema())
    source, types = folder / "openapi.json", folder / "schema.d.ts"
    source.write_text(openapi)
    subprocess.run(
        ["npx", "openapi-typescript", str(source), "-o", str(types)], cwd=ROOT / "web", check=True, capture_output=True
    )
    return {
        ROOT / "web" / "openapi.json": openapi,
        ROOT / "web" / "src" / "api" / "schema.d.ts": types.read_text(),
    } | {ROOT / "docs" / "formats" / f"{name}.schema.json": _json(schema()) for name, schema in SCHEMAS.items()}


def main() -> int:
    with tempfile.TemporaryDirectory() as folder:
        files = generated(Path(folder))
    stale = [path for path, text in files.items() if not path.is_file() or path.read_text() != text]
    if "--check" in sys.argv:
        for path in stale:
            print(f"{path.relative_to(ROOT)} is not current; run .venv/bin/python tools/generated.py")
        return 1 if stale else 0
    for path in stale:
        path.write_text(files[path])
        print(f"wrote {path.relative_to(ROOT)}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
