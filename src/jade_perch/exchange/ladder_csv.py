"""The table of rungs as CSV, for a spreadsheet or a printed card."""

import csv
import io
from collections.abc import Iterable

from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.rungs import Rung
from jade_perch.exchange.tables import safe_cells

LEFT_OUT = {"key", "passes", "eyepiece_id", "amplifier_ids", "adapters"}
COLUMNS = ("telescope_name", *(name for name in Rung.model_fields if name not in LEFT_OUT))


def write_ladders(ladders: Iterable[Ladder]) -> str:
    """Return all rungs of some ladders as CSV text, units in the header."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    for ladder in ladders:
        for rung in ladder.rungs:
            values = rung.model_dump(exclude=LEFT_OUT)
            writer.writerow(safe_cells({"telescope_name": ladder.telescope_name, **values}))
    return out.getvalue()
