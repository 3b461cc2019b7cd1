"""The set-up path: which steps a mount needs and why, their state, and what spoils what."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, JsonValue

from jade_perch.core.bench.advice import Advice, require_practice
from jade_perch.core.bench.assemble import ON_ANY_MOUNT
from jade_perch.core.bench.budget import Reading, ReadingName
from jade_perch.core.bench.north import (
    SCALE_DOUBT_DEG,
    UNREAD_NORTH_DEG,
    UNREAD_TILT_DEG,
)
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Item, Label, Loaded, UtcTime, Words
from jade_perch.core.kit import Mount

StepName = Literal[
    "assemble",
    "stand",
    "level",
    "balance",
    "sun",
    "focus",
    "finder",
    "north",
    "power",
    "budget",
    "cool",
]
StepState = Literal["to_do", "done", "spoiled", "unsafe", "not_needed"]
Mishap = Literal[
    "base_moved",
    "knocked",
    "tube_slid",
    "tube_bumped",
    "part_loose",
    "power_lost",
    "load_changed",
]

TITLES: dict[StepName, str] = {
    "assemble": "Put together",
    "stand": "Stand",
    "level": "Level",
    "balance": "Balance and fit",
    "sun": "Sun guard",
    "focus": "Focus",
    "finder": "Finder",
    "north": "North and pole",
    "power": "Power on",
    "budget": "Minutes in the field",
    "cool": "Cool-down and dew",
}
UNNAMED_MOUNT = Mount(name="a mount pushed by hand", kind="altaz")  # where the kit names none
WHY: dict[StepName, str] = {
    "assemble": "Nothing forced, nothing missing, nothing the wrong way round.",
    "stand": "Steady ground and the right height decide the whole evening.",
    "balance": "Nothing drops, nothing strains.",
    "sun": "Before any daylight pointing: where the Sun is and will be.",
    "finder": "Finder and main tube have to point at the same place.",
    "focus": "Smallest stars, sharpest edge; anew for every eyepiece and person.",
    "budget": "How long each target stays, and what to improve first.",
    "cool": "Warm optics boil; cold ones fog.",
}
DONE_BY_WORD: tuple[StepName, ...] = ("power", "budget")
# What is no longer true once a step is done again: it was read while standing on the old one.
RESTS_ON: dict[StepName, tuple[StepName, ...]] = {
    "assemble": (),
    "stand": (),
    "level": ("stand",),
    "balance": (),
    "sun": (),
    "finder": (),
    "north": ("stand", "level"),
    "power": ("stand", "level", "north"),
    "focus": (),
    "budget": (),
    "cool": (),
}
# What a step done by word is built on: it is practice where one of these is.
BUILT_ON: dict[StepName, tuple[StepName, ...]] = {
    "power": ("level", "north"),
    "budget": ("level", "north"),
}
# What has to be done before a step done by word is done at all, where the mount needs it.
NEEDED_FIRST: dict[StepName, tuple[StepName, ...]] = {"power": ("level", "north")}


@dataclass(frozen=True, slots=True)
class MishapTraits:
    """What happens to a telescope: the steps it spoils, and the parts to be put right again."""

    words: str
    steps: tuple[StepName, ...]
    parts: tuple[str, ...] = ()


MISHAPS: dict[Mishap, MishapTraits] = {
    "base_moved": MishapTraits(
        "The base was moved or kicked",
        ("assemble", "stand", "level", "north", "power"),
        ("legs", "tray", "board", "table"),
    ),
    "knocked": MishapTraits("Somebody bumped the telescope", ("level", "finder", "north")),
    "tube_slid": MishapTraits(
        "The tube was slid or turned in its rings", ("assemble", "balance", "power"), ("rail",)
    ),
    "tube_bumped": MishapTraits(
        "The finder or its screws were bumped",
        ("assemble", "finder"),
        ("finder", "sight"),
    ),
    "part_loose": MishapTraits(
        "A bolt, cable or diagonal came loose",
        ("assemble",),
        ("head", "bolt", "side_bolt", "rod", "cables", "plate", "diagonal", "eyepiece"),
    ),
    "power_lost": MishapTraits("The power was lost", ("assemble", "power"), ("supply", "cell")),
    "load_changed": MishapTraits("A heavier or lighter load is on", ("balance",)),
}


class SetupReading(Item):
    """One step done: what was read, what it gave, and when and by what it was spoiled.

    ``simulated`` names what it rests on that nobody measured, such as "level"; empty for none.
    """

    evening_id: int
    telescope_id: int
    step: StepName
    recorded_at_utc: UtcTime
    words: Words
    is_good: bool
    figures: Annotated[dict[str, float], Loaded]
    inputs: Annotated[dict[str, JsonValue], Loaded]
    spoiled_at_utc: UtcTime | None = None
    spoiled_by: Words = ""
    simulated: Label = ""


class Step(Frozen):
    """A step of the path as it stands for one evening and telescope.

    ``spoils`` are the steps that doing this one again would spoil.  ``not_safe`` says why what it
    was told may not be aimed at just now; a landmark is "unsafe" then, other steps stay done.
    ``simulated`` names what it rests on that nobody measured: such a step is practice;
    ``built_on_simulated`` what it would rest on if it were done now; ``waits_for`` what comes
    before it and is not done.
    """

    name: StepName
    title: str
    why: str
    state: StepState
    recorded_at_utc: datetime | None
    words: str
    is_good: bool
    spoiled_by: str
    spoils: list[StepName]
    inputs: dict[str, JsonValue] | None
    not_safe: str = ""
    simulated: str = ""
    built_on_simulated: str = ""
    waits_for: list[StepName] = Field(default_factory=list)


class SetupMark(Frozen):
    """A step on the evening ribbon: when it was done, and whether it still holds."""

    title: str
    recorded_at_utc: datetime
    state: StepState
    simulated: str


class MishapChoice(Frozen):
    """Something that happens to a telescope, and which steps it spoils on this mount."""

    mishap: Mishap
    words: str
    spoils: list[StepName]


def is_needed(step: StepName, mount: Mount) -> bool:
    """Return whether a mount needs a step at all.  Source: rules.md#steps."""
    if step == "north":
        return mount.traits.reads_north
    return mount.traits.needs_power if step == "power" else True


def why_step(step: StepName, mount: Mount) -> str:
    """Return why a mount needs a step, or why it does not.  Source: rules.md#steps."""
    if step == "level":
        return mount.traits.level_why
    if step == "north":
        return mount.traits.north_why
    if step == "power":
        needed, not_needed = "Level, north, zero mark, then power.", "Nothing here needs power."
        return needed if mount.traits.needs_power else not_needed
    return WHY[step]


def resting_on(step: StepName) -> list[StepName]:
    """Return the steps whose readings rest on a step, in the order of the work.

    Source: rules.md#steps.
    """
    return [name for name in TITLES if step in RESTS_ON[name]]


def make_steps(mount: Mount, readings: Sequence[SetupReading]) -> list[Step]:
    """Return the path in the order of the work; ``readings`` in any order, the latest counts.

    What a mount does not need is not on it, unless it was recorded all the same.

    Source: rules.md#steps.
    """
    latest = {one.step: one for one in sorted(readings, key=lambda one: one.recorded_at_utc)}
    steps = [
        _step(name, mount, latest.get(name))
        for name in TITLES
        if is_needed(name, mount) or name in latest
    ]
    standing = list(latest.values())
    return [
        one.model_copy(
            update={
                "built_on_simulated": practised(one.name, standing),
                "waits_for": waiting_for(one.name, mount, standing),
            }
        )
        for one in steps
    ]


def standing_readings(readings: Sequence[SetupReading]) -> dict[StepName, SetupReading]:
    """Return the latest reading of each step that nothing has spoiled.  Source: rules.md#steps."""
    in_order = sorted(readings, key=lambda one: one.recorded_at_utc)
    return {one.step: one for one in in_order if one.spoiled_at_utc is None}


def practised(step: StepName, readings: Sequence[SetupReading]) -> str:
    """Return what a step done by word is built on that was only simulated; empty for nothing.

    Source: rules.md#simulated.
    """
    standing = standing_readings(readings)
    built_on = (standing[name].simulated for name in BUILT_ON.get(step, ()) if name in standing)
    return " and ".join(filter(None, built_on))


def word_given(
    step: StepName, mount: Mount, readings: Sequence[SetupReading], *, as_practice: bool
) -> Advice:
    """Return what is recorded of a step done by word; practice where it is built on practice.

    Raises ``OutOfRange`` for a step that has a reading, for one that waits for others, and for
    practice not called so.

    Source: rules.md#steps; rules.md#simulated.
    """
    require_word_enough(step)
    waits_for = waiting_for(step, mount, readings)
    if waits_for:
        said = " and ".join(TITLES[one].lower() for one in waits_for)
        raise OutOfRange("step", step, f"done after {said}", f"Do {said} first.")
    words = Advice.of_words("Done.")
    built_on = practised(step, readings)
    given = words.model_copy(update={"note": words.instruction, "simulated": built_on})
    require_practice(given, as_practice=as_practice)
    return given


def waiting_for(step: StepName, mount: Mount, readings: Sequence[SetupReading]) -> list[StepName]:
    """Return the steps that have to be done before one, and are not.  Source: rules.md#steps."""
    standing = standing_readings(readings)
    return [
        one for one in NEEDED_FIRST.get(step, ()) if is_needed(one, mount) and one not in standing
    ]


def _step(name: StepName, mount: Mount, reading: SetupReading | None) -> Step:
    state: StepState = "to_do"
    if reading is not None:
        state = "done" if reading.spoiled_at_utc is None else "spoiled"
    elif not is_needed(name, mount):
        state = "not_needed"
    return Step(
        name=name,
        title=TITLES[name],
        why=why_step(name, mount),
        state=state,
        recorded_at_utc=None if reading is None else reading.recorded_at_utc,
        words="" if reading is None else reading.words,
        is_good=reading is not None and reading.is_good,
        spoiled_by="" if reading is None else reading.spoiled_by,
        spoils=[one for one in resting_on(name) if is_needed(one, mount)],
        inputs=None if reading is None else reading.inputs,
        simulated="" if reading is None else reading.simulated,
    )


def ribbon_marks(steps: Sequence[Step]) -> list[SetupMark]:
    """Return the steps done so far as marks in time.  Source: rules.md#steps."""
    return [
        SetupMark(
            title=one.title,
            recorded_at_utc=one.recorded_at_utc,
            state=one.state,
            simulated=one.simulated,
        )
        for one in steps
        if one.recorded_at_utc is not None
    ]


def mishaps_of(mount: Mount) -> list[MishapChoice]:
    """Return what may happen to a telescope on this mount, and what each spoils.

    Source: rules.md#steps.
    """
    choices = []
    for mishap, traits in MISHAPS.items():
        has_parts = not ON_ANY_MOUNT.union(mount.traits.parts).isdisjoint(traits.parts)
        spoils = [
            step
            for step in traits.steps
            if is_needed(step, mount) and (step != "assemble" or has_parts)
        ]
        if spoils:
            choices.append(MishapChoice(mishap=mishap, words=traits.words, spoils=spoils))
    return choices


def spoiled(
    readings: Sequence[SetupReading], steps: Sequence[StepName], at_utc: datetime, by: str
) -> list[SetupReading]:
    """Return the still good readings of some steps as spoiled at a moment by something.

    Source: rules.md#steps.
    """
    return [
        one.model_copy(update={"spoiled_at_utc": at_utc, "spoiled_by": by})
        for one in readings
        if one.step in steps and one.spoiled_at_utc is None
    ]


def require_word_enough(step: StepName) -> StepName:
    """Return a step that is done as soon as somebody says so; raises ``OutOfRange`` for others.

    Everything that has a reading, and above all the Sun guard, is recorded by its reading.

    Source: rules.md#steps.
    """
    if step not in DONE_BY_WORD:
        cure = "Record its reading instead."
        raise OutOfRange("step", step, ", ".join(DONE_BY_WORD), cure)
    return step


def budget_readings(readings: Sequence[SetupReading]) -> dict[ReadingName, Reading]:
    """Return what the tracking budget reads: recorded errors, or the doubt of nobody's looking.

    Source: the figures each step records, ``tilt_arcmin`` and degrees.
    """
    standing = standing_readings(readings)
    good = {step: one.figures for step, one in standing.items()}
    level, north = good.get("level"), good.get("north")
    practised = {step for step, one in standing.items() if one.simulated}
    tilt = Reading(doubt_deg=UNREAD_TILT_DEG)
    if level is not None:
        tilt = Reading(
            value_deg=level["tilt_arcmin"] / 60,
            doubt_deg=level["tilt_doubt_arcmin"] / 60,
            toward_deg=level["low_azimuth_deg"],
            is_recorded=True,
            is_simulated="level" in practised,
        )
    found = {"level": tilt, "north": _reading(north, "azimuth", UNREAD_NORTH_DEG)}
    if "north" in practised:
        found["north"] = found["north"].model_copy(update={"is_simulated": True})
    pole = _reading(north, "pole_altitude", 2 * SCALE_DOUBT_DEG)
    return {"level": found["level"], "north": found["north"], "pole": pole}


def _reading(figures: Mapping[str, float] | None, of: str, unread_deg: float) -> Reading:
    if figures is None:
        return Reading(doubt_deg=unread_deg)
    value_deg, doubt_deg = figures[f"{of}_error_deg"], figures[f"{of}_doubt_deg"]
    return Reading(value_deg=value_deg, doubt_deg=doubt_deg, is_recorded=True)
