"""The core by itself: its physics imports neither Django nor pydantic nor pint; its command line needs no server."""

import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
PROBE = """
import sys
sys.path[:0] = [{core!r}]
import warmdraft.diagnosis, warmdraft.proof, warmdraft.teardown, warmdraft.vent, warmdraft.work
heavy = [name for name in ("django", "pydantic", "pint", "scipy") if name in sys.modules]
import warmdraft.jobfile, warmdraft.__main__
heavy += [name for name in ("django", "jobs", "config") if name in sys.modules]
sys.exit(", ".join(heavy) + " imported by the core" if heavy else 0)
"""
probe = PROBE.format(core=str(ROOT / "core"))
sys.exit(subprocess.run([sys.executable, "-c", probe], env={"PATH": ""}, cwd="/").returncode)
