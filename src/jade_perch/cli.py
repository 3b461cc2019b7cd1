"""The command behind make: ``jade-perch serve``, ``demo``, ``instrument`` and ``restore``."""

import argparse
import atexit
import os
import signal
import socket
import sys
import threading
from collections.abc import Callable, Sequence
from contextlib import closing, suppress
from functools import partial
from pathlib import Path
from types import FrameType

import platformdirs
import uvicorn
from starlette.applications import Starlette
from starlette.types import ASGIApp

from jade_perch.api.threshold import Threshold
from jade_perch.core.errors import OutOfRange
from jade_perch.demo import CLOCK, SEED
from jade_perch.devices.clock import Clock, parse_clock
from jade_perch.devices.reach import addresses, is_everywhere, listen
from jade_perch.store.connection import DATABASE_NAME, connect, in_use
from jade_perch.store.errors import StoreError

DEFAULT_PORT = 8427
GRACE_S = 2  # what is being answered when the end is asked for is still answered
# a page asks at every tick of the clock: its ways must not be shut just as it asks again
KEPT_OPEN_S = 75
OWN = Path(platformdirs.user_data_dir("jade-perch"))


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit status, 2 for arguments that cannot be used."""
    words = sys.argv[1:] if arguments is None else arguments
    options = _parser(words).parse_args(words)
    try:
        if options.command in ("serve", "demo"):
            clock = parse_clock(options.clock or (CLOCK if options.command == "demo" else None))
            return _serve(options, clock)
        return _do(options)
    except (OutOfRange, StoreError, OSError) as error:
        print(f"jade-perch: {error}", file=sys.stderr)
        return 2


def _parser(words: Sequence[str]) -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="jade-perch", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    for name, about in (("serve", "your own evenings"), ("demo", "the made-up scenario")):
        command = commands.add_parser(name, help=about)
        command.add_argument("--host", default="127.0.0.1")
        command.add_argument("--port", type=int, default=DEFAULT_PORT)
        command.add_argument("--data-dir", type=Path, help="where the database lives")
        command.add_argument(
            "--clock", help="now, or a time such as 2027-02-13T17:10+01:00, with @60 to run"
        )
        command.add_argument(
            "--weather-seed",
            type=int,
            default=SEED if name == "demo" else None,
            help="what the simulated weather makes up",
        )
    instrument = commands.add_parser(
        "instrument", help="a simulated level or compass, line by line"
    )
    instrument.add_argument("kind", choices=("level", "compass"))
    instrument.add_argument("--count", type=int, help="how many lines; without it no end")
    if "instrument" in words:
        from jade_perch.chores import add_readings

        add_readings(instrument)
    restore = commands.add_parser("restore", help="list the daily copies, or put one back")
    restore.add_argument("copy", nargs="?", help="latest, a day such as 2027-02-13, or a file")
    restore.add_argument("--data-dir", type=Path, help="where the database lives")
    openapi = commands.add_parser("openapi", help="write the OpenAPI document")
    openapi.add_argument("file", type=Path)
    return parser


def _do(options: argparse.Namespace) -> int:
    """Do what is over when it is done."""
    from jade_perch import chores  # what only they need

    if options.command == "openapi":
        return chores.write_openapi(options.file)
    if options.command == "instrument":
        return chores.print_lines(options)
    return chores.restore(options.data_dir or OWN, options.copy)


def _serve(options: argparse.Namespace, clock: Clock) -> int:
    is_demo = options.command == "demo"
    data_dir = options.data_dir or (OWN / "demo" if is_demo else OWN)
    with closing(listen(options.host, options.port)) as door, in_use(data_dir, alone=False):
        return _serve_from(data_dir, options, clock, door)


def _serve_from(
    data_dir: Path, options: argparse.Namespace, clock: Clock, door: socket.socket
) -> int:
    names = () if is_everywhere(options.host) else (options.host,)
    threshold = Threshold(partial(_make, data_dir, options, clock, names), names)
    first, *others = addresses(options.host, door.getsockname()[1])
    also = f", from other devices {' or '.join(others)}" if others else ""
    print(f"Jade Perch: {first}{also}  (Ctrl+C ends it)", flush=True)
    server = Server(threshold, threshold.let_go)
    threshold.give_up = server.end
    answer(server, door)
    if threshold.error is not None:
        raise threshold.error
    return 0


def _make(
    data_dir: Path, options: argparse.Namespace, clock: Clock, names: tuple[str, ...]
) -> Starlette:
    """Make the application over its database; for the demo, with the scenario in it."""
    from jade_perch.api.app import create_app  # takes seconds: pages are answered meanwhile
    from jade_perch.demo.loader import load_demo
    from jade_perch.store.damage import damage_of

    seed = {} if options.weather_seed is None else {"weather_seed": options.weather_seed}
    app = create_app(data_dir, clock, hosts=names, **seed)
    found = damage_of(data_dir)
    if found is not None:
        print(f"jade-perch: {found.words}", file=sys.stderr)
    if options.command == "demo":
        with closing(connect(data_dir / DATABASE_NAME)) as db:
            load_demo(db)
    return app


def answer(server: "Server", door: socket.socket) -> None:
    """Answer at a door until told to end."""
    signal.signal(signal.SIGTERM, _end)
    with suppress(KeyboardInterrupt):
        server.run(sockets=[door])


class Server(uvicorn.Server):
    """A server that ends its streams as soon as it is told to end, instead of having them cut.

    ``let_go`` ends them.  What is still being worked out a moment later is left where it is: no
    thread can be ended from outside, and what it had not acknowledged was never promised (as when
    the power goes).
    """

    def __init__(self, app: ASGIApp, let_go: Callable[[], None]) -> None:
        config = uvicorn.Config(app, log_level="warning", timeout_keep_alive=KEPT_OPEN_S)
        super().__init__(config)
        self.let_go = let_go

    def end(self) -> None:
        """End, as there is nothing to answer with."""
        self.should_exit = True

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Take the wish to end."""
        end = threading.Timer(GRACE_S, _leave)
        end.daemon = True
        end.start()
        self.let_go()
        super().handle_exit(sig, frame)


def _leave() -> None:
    """End now, with all that belongs to an end but waiting for what is still being worked out."""
    atexit._run_exitfuncs()
    os._exit(0)


def _end(*_: object) -> None:
    """End as by Ctrl+C: what has to be put away is put away."""
    sys.exit(0)


if __name__ == "__main__":
    sys.exit(main())
