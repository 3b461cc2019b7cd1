"""The command behind make: ``jade-perch serve``, ``demo``, ``instrument`` and ``restore``."""

import argparse
import atexit
import json
import os
import signal
import socket
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Sequence
from contextlib import closing, suppress
from datetime import UTC, datetime
from itertools import islice
from pathlib import Path
from types import FrameType

import platformdirs
import uvicorn
from pydantic import ValidationError
from starlette.types import ASGIApp

from jade_perch.core.errors import OutOfRange, field_problems
from jade_perch.demo.loader import CLOCK, SEED, load_demo
from jade_perch.devices.clock import Clock, parse_clock
from jade_perch.devices.reach import addresses, is_everywhere, listen
from jade_perch.standins.instruments import InstrumentSettings, simulated_lines
from jade_perch.standins.weather import USUAL_SEED
from jade_perch.store.connection import DATABASE_NAME, connect, in_use
from jade_perch.store.copies import FOLDER, list_copies, restore_copy
from jade_perch.store.damage import damage_of
from jade_perch.store.errors import StoreError

DEFAULT_PORT = 8427
GRACE_S = 2  # what is being answered when the end is asked for is still answered
# a page asks at every tick of the clock: its ways must not be shut just as it asks again
KEPT_OPEN_S = 75
OWN = Path(platformdirs.user_data_dir("jade-perch"))
SIMULATED = tuple(InstrumentSettings.model_fields)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit status, 2 for arguments that cannot be used."""
    options = _parser().parse_args(arguments)
    try:
        if options.command == "openapi":
            return _write_openapi(options.file)
        if options.command == "instrument":
            return _print_lines(options)
        if options.command == "restore":
            return _restore(options.data_dir or OWN, options.copy)
        clock = parse_clock(options.clock or (CLOCK if options.command == "demo" else None))
        return _serve(options, clock)
    except (OutOfRange, StoreError, OSError) as error:
        print(f"jade-perch: {error}", file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
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
            default=SEED if name == "demo" else USUAL_SEED,
            help="what the simulated weather makes up",
        )
    instrument = commands.add_parser(
        "instrument", help="a simulated level or compass, line by line"
    )
    instrument.add_argument("kind", choices=("level", "compass"))
    instrument.add_argument("--count", type=int, help="how many lines; without it no end")
    for field in SIMULATED:
        flag = "--" + field.removesuffix("_deg").removesuffix("_hz")
        instrument.add_argument(flag, dest=field)
    restore = commands.add_parser("restore", help="list the daily copies, or put one back")
    restore.add_argument("copy", nargs="?", help="latest, a day such as 2027-02-13, or a file")
    restore.add_argument("--data-dir", type=Path, help="where the database lives")
    openapi = commands.add_parser("openapi", help="write the OpenAPI document")
    openapi.add_argument("file", type=Path)
    return parser


def _serve(options: argparse.Namespace, clock: Clock) -> int:
    is_demo = options.command == "demo"
    data_dir = options.data_dir or (OWN / "demo" if is_demo else OWN)
    with closing(listen(options.host, options.port)) as door, in_use(data_dir, alone=False):
        return _serve_from(data_dir, options, clock, door)


def _serve_from(
    data_dir: Path, options: argparse.Namespace, clock: Clock, door: socket.socket
) -> int:
    from jade_perch.api.app import create_app  # takes seconds: what is wrong is told before

    names = () if is_everywhere(options.host) else (options.host,)
    app = create_app(data_dir, clock, hosts=names, weather_seed=options.weather_seed)
    found = damage_of(data_dir)
    if found is not None:
        print(f"jade-perch: {found.words}", file=sys.stderr)
    if options.command == "demo":
        db = connect(data_dir / DATABASE_NAME)
        try:
            load_demo(db)
        finally:
            db.close()
    first, *others = addresses(options.host, door.getsockname()[1])
    also = f", from other devices {' or '.join(others)}" if others else ""
    print(f"Jade Perch: {first}{also}  (Ctrl+C ends it)", flush=True)
    answer(app, door, app.state.broker.let_go)
    return 0


def answer(app: ASGIApp, door: socket.socket, let_go: Callable[[], None]) -> None:
    """Answer at a door until told to end; ``let_go`` ends the streams that are open then."""
    config = uvicorn.Config(app, log_level="warning", timeout_keep_alive=KEPT_OPEN_S)
    signal.signal(signal.SIGTERM, _end)
    with suppress(KeyboardInterrupt):
        _Server(config, let_go).run(sockets=[door])


class _Server(uvicorn.Server):
    """A server that ends its streams as soon as it is told to end, instead of having them cut.

    What is still being worked out a moment later is left where it is: no thread can be ended from
    outside, and what it had not acknowledged was never promised (as when the power goes).
    """

    def __init__(self, config: uvicorn.Config, let_go: Callable[[], None]) -> None:
        super().__init__(config)
        self.let_go = let_go

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


def _restore(data_dir: Path, named: str | None) -> int:
    """List the copies, or put one in the place of the database; what was there is laid aside."""
    copies = list_copies(data_dir)
    if named is None:
        for one in copies:
            print(f"{one.day}  {one.size_bytes / 1e6:.1f} MB  {one.path}")
        if not copies:
            print(f"There is no copy in {data_dir / FOLDER} yet.")
        return 0
    if named == "latest":
        path = copies[0].path if copies else data_dir / FOLDER / "(none)"
    else:
        path = next((one.path for one in copies if str(one.day) == named), Path(named))
    with in_use(data_dir, alone=True):
        aside = restore_copy(data_dir, path, datetime.now(UTC))
    print(f"Restored from {path}.")
    if aside is not None:
        print(f"What was there before lies in {aside}.")
    return 0


def _print_lines(options: argparse.Namespace) -> int:
    """Print the readings of a simulated instrument, at its own pace, as a device would."""
    given = {field: getattr(options, field) for field in SIMULATED}
    try:
        settings = InstrumentSettings.model_validate(
            {field: value for field, value in given.items() if value is not None}
        )
    except ValidationError as error:
        problem = field_problems(error.errors())[0]
        raise OutOfRange(problem.field, problem.value, problem.allowed, problem.cure) from error
    lines = simulated_lines(options.kind, settings)
    for line in islice(lines, options.count):
        if line is not None:
            print(line, flush=True)
        time.sleep(1 / settings.rate_hz)
    return 0


def _write_openapi(file: Path) -> int:
    """Write the OpenAPI document, from which the page's types are generated."""
    from jade_perch.api.app import create_app

    file.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as empty:
        document = create_app(Path(empty), Clock()).openapi()
    file.write_text(json.dumps(document, indent=1, sort_keys=True) + "\n", "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
