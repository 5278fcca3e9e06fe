"""Where things lie. Nothing is shared between two checkouts, nor between the app and a test run."""

from __future__ import annotations

import hashlib
import os
import shutil
from dataclasses import dataclass
from pathlib import Path

from warm.say import Trouble

ROOT = Path(__file__).resolve().parents[2]
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
#: Below this the database and the packages do not fit.
LEAST_FREE_BYTES = 1_500_000_000


@dataclass(frozen=True)
class Places:
    """The folders of one running instance."""

    state: Path

    @property
    def cluster(self) -> Path:
        return self.state / "postgresql"

    @property
    def logs(self) -> Path:
        return self.state / "logs"

    @property
    def mail(self) -> Path:
        return self.state / "mail"

    @property
    def secret(self) -> Path:
        return self.state / "secret"

    @property
    def running(self) -> Path:
        return self.state / "running.json"

    def make(self) -> None:
        """Make the folders, or say what stands in the way."""
        try:
            self.state.mkdir(parents=True, exist_ok=True)
            # the database runs as another user and has to get through, no more; the rest is the owner's alone
            self.state.chmod(0o711 if os.geteuid() == 0 else 0o700)
            for own in (self.logs, self.mail):
                own.mkdir(exist_ok=True)
                own.chmod(0o700)
                for file in own.glob("*"):
                    file.chmod(0o600)
        except PermissionError:
            raise Trouble(
                f"no right to write {self.state}; choose another folder: WARM_STATE=DIR ./warm start"
            ) from None
        except OSError as error:
            raise Trouble(f"{self.state} cannot be made ({error.strerror}); choose another: WARM_STATE=DIR") from None
        if shutil.disk_usage(self.state).free < LEAST_FREE_BYTES:
            raise Trouble(f"less than 1.5 GB is free where {self.state} lies; make room and start again")

    @classmethod
    def of_app(cls) -> Places:
        """The app of this checkout."""
        own = os.environ.get("WARM_STATE")
        if own:
            return cls(Path(own).resolve())
        # root's home is closed to the user the database runs as
        home = (
            Path("/var/lib")
            if os.geteuid() == 0
            else Path(os.environ.get("XDG_STATE_HOME") or Path.home() / ".local" / "state")
        )
        name = hashlib.sha256(str(ROOT).encode()).hexdigest()[:10]
        return cls(home / "warm-draft" / name)
