"""What the command does beside answering: readings, copies put back, the OpenAPI document."""

import argparse
import json
import tempfile
import time
from datetime import UTC, datetime
from itertools import islice
from pathlib import Path

from pydantic import ValidationError

from jade_perch.core.errors import OutOfRange, field_problems
from jade_perch.devices.clock import Clock
from jade_perch.standins.instruments import InstrumentSettings, simulated_lines
from jade_perch.store.connection import in_use
from jade_perch.store.copies import FOLDER, list_copies, restore_copy

SIMULATED = tuple(InstrumentSettings.model_fields)


def add_readings(parser: argparse.ArgumentParser) -> None:
    """Let a command take what a simulated instrument would show."""
    for field in SIMULATED:
        flag = "--" + field.removesuffix("_deg").removesuffix("_hz")
        parser.add_argument(flag, dest=field)


def restore(data_dir: Path, named: str | None) -> int:
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


def print_lines(options: argparse.Namespace) -> int:
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


def write_openapi(file: Path) -> int:
    """Write the OpenAPI document, from which the page's types are generated."""
    from jade_perch.api.app import create_app  # takes seconds, and only this needs it

    file.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as empty:
        document = create_app(Path(empty), Clock()).openapi()
    file.write_text(json.dumps(document, indent=1, sort_keys=True) + "\n", "utf-8")
    return 0
