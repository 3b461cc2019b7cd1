"""Live instruments: one JSON line a reading, judged before anybody acts on it."""

import json
from dataclasses import dataclass, replace
from statistics import median
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, ValidationError

from jade_perch.core.bench.angles import signed_deg
from jade_perch.core.errors import OutOfRange, field_problems, shown
from jade_perch.core.fields import Frozen, Range

WINDOW = 15  # readings the shown value is the median of: half a second at 30 a second
JUMP_DEG = 2.0  # farther from the median than this is no noise
BELIEVED_AFTER = 5  # so many in a row elsewhere are a real move
SILENT_AFTER_S = 1.0  # without a line for this long the instrument counts as silent
LINE_CHARS = 500  # a longer line is rubbish
Kind = Literal["level", "compass"]


class LevelLine(Frozen):
    """A reading of a two-axis level: the rise along its axis, and 90° clockwise of it."""

    instrument: Literal["level"]
    seq: Annotated[int, Range(0, 2**53, "", "Count readings up from 0.")]
    along_deg: Annotated[float, Range(-90, 90, "°", "Send degrees.")]
    across_deg: Annotated[float, Range(-90, 90, "°", "Send degrees.")]
    simulated: bool = False


class CompassLine(Frozen):
    """A reading of a compass: the magnetic bearing its mark points to."""

    instrument: Literal["compass"]
    seq: Annotated[int, Range(0, 2**53, "", "Count readings up from 0.")]
    bearing_deg: Annotated[float, Range(0, 360, "°", "Send degrees from magnetic north.")]
    simulated: bool = False


Line = Annotated[LevelLine | CompassLine, Field(discriminator="instrument")]
LINES: TypeAdapter[LevelLine | CompassLine] = TypeAdapter(Line)
State = Literal["steady", "moving", "jumped", "rubbish", "silent"]


class Shown(Frozen):
    """What the page draws: the calmed value, how restless it is, and what is wrong if anything.

    ``values`` are (along, across) in degrees for a level, (bearing,) for a compass; None before
    the first good reading.  ``missed`` counts readings that never came, by their numbers;
    ``settled`` how many whole windows of readings lay close together since it was last moved.
    ``is_simulated`` where a stand-in sends them.
    """

    instrument: Kind
    state: State
    seq: int
    values: tuple[float, ...] | None
    latest: tuple[float, ...] | None
    noise_arcmin: float
    missed: int
    settled: int
    is_simulated: bool
    words: str


@dataclass(frozen=True, slots=True)
class Watch:
    """The last readings of one instrument; each step returns a new watch."""

    kind: Kind
    window: tuple[tuple[float, ...], ...] = ()
    elsewhere: tuple[tuple[float, ...], ...] = ()
    seq: int = -1
    missed: int = 0
    calm: int = 0
    is_simulated: bool = False


def read_line(text: str) -> LevelLine | CompassLine:
    """Return one line as a reading.

    Raises ``OutOfRange`` for anything that is none, with what was wrong.

    Source: rules.md#instruments.
    """
    try:
        if len(text) > LINE_CHARS:
            raise ValueError(f"longer than {LINE_CHARS} characters")
        return LINES.validate_python(json.loads(text))
    except ValidationError as error:
        problem = field_problems(error.errors())[0]
        raise OutOfRange(problem.field, problem.value, problem.allowed, problem.cure) from error
    except (ValueError, RecursionError) as error:
        cure = "Send one JSON object a line, as docs/formats.md says."
        raise OutOfRange("line", shown(text), "a reading", cure) from error


def watch_line(watch: Watch, text: str) -> tuple[Watch, Shown]:
    """Return the watch after one more line, and what to show for it.

    A single leap is left out; five in a row are believed.  A line that is no reading changes
    nothing but the words.

    Source: rules.md#instruments.
    """
    try:
        line = read_line(text)
        if line.instrument != watch.kind:
            raise OutOfRange("instrument", line.instrument, watch.kind, "Plug in the other one.")
    except OutOfRange as problem:
        return watch, _shown(watch, "rubbish", None, f"A line was no reading: {problem}")
    values = _values(line)
    gap = line.seq - watch.seq - 1 if watch.seq >= 0 else 0
    counted = replace(
        watch,
        seq=line.seq,
        missed=watch.missed + max(0, gap),
        is_simulated=line.simulated,
    )
    if watch.window and _apart_deg(values, _middle(watch)) > JUMP_DEG:
        away = (*watch.elsewhere, values)
        if len(away) < BELIEVED_AFTER or _apart_deg(away[0], values) > JUMP_DEG:
            kept = replace(counted, elsewhere=away[-BELIEVED_AFTER:])
            return kept, _shown(kept, "jumped", values, "It leapt: waiting whether it stays.")
        moved = replace(counted, window=away, elsewhere=(), calm=len(away))
        return moved, _shown(moved, "moving", values, "It was moved.")
    window = (*watch.window, values)[-WINDOW:]
    kept = replace(counted, window=window, elsewhere=(), calm=watch.calm + 1)
    is_steady = len(kept.window) == WINDOW
    state: State = "steady" if is_steady else "moving"
    return kept, _shown(kept, state, values, "Steady." if is_steady else "Settling.")


def silent(watch: Watch) -> Shown:
    """Return what to show when no line came for a while.  Source: rules.md#instruments."""
    return _shown(watch, "silent", None, "Nothing comes from it: check power and cable, or type.")


def _values(line: LevelLine | CompassLine) -> tuple[float, ...]:
    if isinstance(line, LevelLine):
        return line.along_deg, line.across_deg
    return (line.bearing_deg % 360,)


def _apart_deg(one: tuple[float, ...], other: tuple[float, ...]) -> float:
    return max(abs(signed_deg(a - b)) for a, b in zip(one, other, strict=True))


def _middle(watch: Watch) -> tuple[float, ...]:
    """Return the median of the window, around the last reading so that 360 and 0 are near."""
    last = watch.window[-1]
    columns = zip(*watch.window, strict=True)
    return tuple(
        base + median(signed_deg(value - base) for value in column)
        for base, column in zip(last, columns, strict=True)
    )


def _shown(watch: Watch, state: State, latest: tuple[float, ...] | None, words: str) -> Shown:
    middle = _middle(watch) if watch.window else None
    noise = 0.0
    if middle is not None:
        noise = max(_apart_deg(one, middle) for one in watch.window) * 60
        if watch.kind == "compass":
            middle = tuple(value % 360 for value in middle)
    return Shown(
        instrument=watch.kind,
        state=state,
        seq=watch.seq,
        values=middle,
        latest=latest,
        noise_arcmin=noise,
        missed=watch.missed,
        settled=watch.calm // WINDOW,
        is_simulated=watch.is_simulated,
        words=words,
    )


def simulated_text(instrument: Kind, seq: int, **values: float) -> str:
    """Return one reading of a stand-in as its JSON line.  Source: rules.md#instruments."""
    line: dict[str, Any] = {"instrument": instrument, "seq": seq, **values, "simulated": True}
    return json.dumps(line)
