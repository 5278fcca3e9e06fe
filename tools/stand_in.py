"""`./warm stand-in [JOB.json]`: instruments that are not there, answering SCPI lines over TCP on loopback.

Plays the machine of a job with its `suppose`: an anemometer, a manometer, a thermometer and a clamp meter read it with
their noise, while it runs on a clock of its own (--speed). --fault makes them misbehave as real ones do.

`./warm stand-in --microphone roller_flat`: a microphone that is not there, as a WAV of such a machine, at any loudness
and in any room. A Chromium takes it as its microphone.
"""

from __future__ import annotations

import argparse
import json
import random
import socketserver
import sys
import threading
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server")]

from demo.sounds import SOURCES, Room, as_file, recorded  # noqa: E402
from instruments.scpi import configured, dimension_of  # noqa: E402
from warm.serve import STAND_IN  # noqa: E402
from warmdraft.airway import READING_KINDS, Conditions, predict  # noqa: E402
from warmdraft.checks import reading_sd  # noqa: E402
from warmdraft.errors import DocumentError  # noqa: E402
from warmdraft.faults import supposed_state  # noqa: E402
from warmdraft.jobfile import parse_json, read_job  # noqa: E402
from warmdraft.machine import profile  # noqa: E402
from warmdraft.units import UNITS  # noqa: E402

#: What is played, as `./warm` tells the server of it; a port each from the first on.
INSTRUMENTS = configured(STAND_IN)
FIRST_PORT = min(played.port for played in INSTRUMENTS.values())
#: A motor that fades begins to after so many minutes, and has faded so many later.
FADES_AFTER_MIN, FADES_OVER_MIN = 35.0, 12.0
#: What a Chromium is started with, before the file that it hears.
MICROPHONE = ("--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream",
              "--use-file-for-fake-audio-capture=")  # fmt: skip
FAULTS = ("none", "drop_outs", "battery", "garbage", "silent")


class Bench:
    """The machine that is played: readings at a minute of its run."""

    def __init__(self, document: object | None, speed: float, fault: str, seed: int) -> None:
        self.speed, self.fault = speed, fault
        self.random = random.Random(seed)
        self.began = time.monotonic()
        job = read_job(document) if document is not None else None
        self.machine = job.machine if job else profile("full-size-electric")
        self.suppose = job.suppose if job else ()

    def minute(self) -> float:
        return (time.monotonic() - self.began) / 60 * self.speed

    def read(self, kind: str) -> float:
        """One noisy reading, canonical unit."""
        faded = min(max((self.minute() - FADES_AFTER_MIN) / FADES_OVER_MIN, 0.0), 1.0)
        now = tuple(
            (fault, 1 - faded * (1 - (0.65 if severity is None else severity))) if fault == "motor_fading"
            else (fault, severity)
            for fault, severity in self.suppose
        )  # fmt: skip
        values = dict(
            zip(READING_KINDS, predict(self.machine, supposed_state(self.machine.airway, now), Conditions())[0],
                strict=True)
        )  # fmt: skip
        if kind == "room_temperature":
            return 21 + self.random.gauss(0, 0.2)
        if kind == "heater_box_temperature":
            return 21 + float(values["heater_rise"]) + self.random.gauss(0, 1)
        share, absolute = reading_sd(kind, None)
        exact = float(values[kind])
        # what one instrument is off by stays with it; from one reading to the next it wavers by far less
        return exact + 0.2 * (share * abs(exact) + absolute) * self.random.gauss(0, 1)

    def battery(self) -> float:
        return 4.0 if self.fault == "battery" else 88.0


class _Line(socketserver.StreamRequestHandler):
    def handle(self) -> None:
        server: _Instrument = self.server  # type: ignore[assignment]
        for raw in self.rfile:
            answer = server.answer(raw.decode("ascii", "replace").strip())
            if answer is None:
                return  # the cable is out
            if answer:
                self.wfile.write(f"{answer}\n".encode())


class _Instrument(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, name: str, port: int, bench: Bench) -> None:
        super().__init__(("127.0.0.1", port), _Line)
        self.name, self.bench = name, bench

    def answer(self, command: str) -> str | None:
        bench, upper = self.bench, command.upper()
        if bench.fault == "silent":
            return ""
        if bench.fault == "drop_outs" and bench.random.random() < 0.25:
            return None
        if upper == "*IDN?":
            return f"Warm Draft,stand-in {self.name},0,1"
        if upper == "SYST:BATT?":
            return f"{bench.battery():.0f}"
        kind = upper.removeprefix("MEAS:").removesuffix("?").lower()
        if upper.startswith("MEAS:") and kind in INSTRUMENTS[self.name].kinds:
            if bench.fault == "garbage" and bench.random.random() < 0.5:
                return "##?,%%"
            return f"{bench.read(kind):.6E},{UNITS[dimension_of(kind)].canonical}"
        return '-113,"Undefined header"'


def serve(bench: Bench, first_port: int) -> list[_Instrument]:
    """One server for each instrument, each in a thread of its own; first_port 0 takes free ones."""
    servers = []
    for place, name in enumerate(INSTRUMENTS):
        server = _Instrument(name, first_port + place if first_port else 0, bench)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        servers.append(server)
    return servers


def addresses(servers: list[_Instrument]) -> str:
    """As WARM_INSTRUMENTS wants them."""
    return ",".join(f"{server.name}=127.0.0.1:{server.server_address[1]}" for server in servers)


def microphone(options: argparse.Namespace) -> int:
    """Write what a microphone would hear, and say how a browser takes it for its own."""
    room = Room(seconds=options.seconds, echo_s=options.echo, second_machine=options.second_machine,
                gain_control=options.gain_control)  # fmt: skip
    wave, fs, _ = recorded(options.microphone, options.seed, options.loud, room)
    as_file(options.out, wave, fs, format="WAV", subtype="PCM_16")
    print(
        f"{options.out} holds {options.seconds:g} s of {options.microphone}. A Chromium takes it as its microphone by"
    )
    print("  " + " ".join(MICROPHONE) + str(options.out.resolve()))
    return 0


def main() -> int:
    parser = argparse.ArgumentParser(prog="./warm stand-in", description=__doc__)
    parser.add_argument("job", nargs="?", help="a job file; its suppose is played")
    parser.add_argument("--speed", type=float, default=1.0, help="minutes of the run a minute (default 1)")
    parser.add_argument("--fault", choices=FAULTS, default="none", help="how the instruments misbehave")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--port", type=int, default=FIRST_PORT, help="the first of four (default %(default)s)")
    heard = parser.add_argument_group("a microphone instead")
    heard.add_argument("--microphone", choices=SOURCES, help="what is wrong with the machine that it hears")
    heard.add_argument(
        "--loud", type=float, default=0.0, metavar="DB", help="what is wrong beside all else (default 0)"
    )
    heard.add_argument("--echo", type=float, default=0.2, metavar="S", help="echo of the room (default %(default)s)")
    heard.add_argument("--second-machine", action="store_true", help="another machine runs beside it")
    heard.add_argument("--gain-control", action="store_true", help="a phone that turns itself up and down")
    heard.add_argument("--seconds", type=float, default=20.0)
    heard.add_argument("--out", type=Path, default=Path("microphone.wav"), help="where to (default %(default)s)")
    options = parser.parse_args()
    if options.microphone:
        return microphone(options)
    try:
        document = parse_json(Path(options.job).read_bytes()) if options.job else None
        bench = Bench(document, options.speed, options.fault, options.seed)
        servers = serve(bench, options.port)
    except (OSError, DocumentError) as error:
        print(f"stand-in: {error}", file=sys.stderr)
        return 2
    print(f"Instruments answer at {addresses(servers)}; Ctrl-C ends them.")
    print(f"They play {json.dumps(bench.suppose)}.", flush=True)
    try:
        threading.Event().wait()
    except KeyboardInterrupt:
        return 0
    return 0


if __name__ == "__main__":
    sys.exit(main())
