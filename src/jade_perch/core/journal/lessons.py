"""What the records teach: a sentence each, the numbers behind it, and only from enough of them."""

from collections.abc import Callable, Hashable, Mapping, Sequence
from typing import NamedTuple, TypeVar

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.evening.habits import LEAST_EVENINGS, LEAST_NOTES, PowerNote
from jade_perch.core.evening.journal import Outcome
from jade_perch.core.eyepiece.sitting import Sitting
from jade_perch.core.fields import Frozen, folded
from jade_perch.core.journal.evenings import looks_in_order, with_ends
from jade_perch.core.kit import Eyepiece, Observer
from jade_perch.core.optics.combinations import pieces_of
from jade_perch.core.optics.drift import TimedDrift
from jade_perch.core.optics.viewer import field_factor
from jade_perch.core.sky.targets import KINDS, Shape

GROUPS: dict[Shape, str] = {
    "disc": "Moon and planets",
    "pair": "double stars",
    "point": "stars",
    "cluster": "clusters",
    "glow": "nebulae and galaxies",
}
LEAST_IN_ROW = 5  # notes or evenings behind one row; fewer are chance; our choice
LEAST_HOURS = 1.0  # at the eyepiece, before hours are compared; our choice
LEAST_JUDGED, LEAST_EACH_WAY = 15, 4  # notes for an eye's factor, and of both outcomes; our choice
FACTORS = np.geomspace(1.0, 6.0, 181)  # tried; Observer.field_factor has the same ends
HELD_AT = 0.12  # margin at which half of all tries succeed: the middle of "at the limit"
SCATTER = 0.2  # of one judgement, in log10 of light: half a magnitude; our estimate
WORTH_OFFERING = 0.08  # log10: a change of a fifth of a magnitude; less is not worth asking
MOST_ROWS = 12
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


T = TypeVar("T")
K = TypeVar("K", bound=Hashable)


class LessonRow(Frozen):
    """One bar of a lesson's drawing: what, how much, and how that is said.

    ``mark`` is a second value on the same scale, such as what the label claims.
    """

    label: str
    value: float
    words: str
    records: int
    mark: float | None = None


class EyeOffer(Frozen):
    """A change the records speak for; nothing changes until somebody takes it."""

    observer_id: int
    version: int | None
    field_factor: float
    now: float
    words: str


class Lesson(Frozen):
    """One thing the records teach: a sentence, its rows, and from how many records.

    Without enough of them ``rows`` is empty and the sentence says how many are wanted.
    """

    key: str
    title: str
    sentence: str
    records: int
    wanted: int
    rows: list[LessonRow]
    offers: list[EyeOffer]


def _few(key: str, title: str, sentence: str, records: int, wanted: int) -> Lesson:
    """Return a lesson that has too few records to teach anything yet."""
    return Lesson(
        key=key,
        title=title,
        sentence=sentence,
        records=records,
        wanted=wanted,
        rows=[],
        offers=[],
    )


def _taught(key: str, title: str, sentence: str, records: int, rows: Sequence[LessonRow]) -> Lesson:
    few = _few(key, title, sentence, records, 0)
    return few.model_copy(update={"rows": list(rows)[:MOST_ROWS]})


def powers_lesson(notes: Sequence[PowerNote]) -> Lesson:
    """Return the powers really used, by kind of target and steadiness of the air.

    Source: rules.md#lessons.
    """
    title = "Powers really used"
    grouped = _grouped(notes, lambda one: (_group(one.kind), one.steadiness))
    rows = []
    for (group, steadiness), found in sorted(grouped.items(), key=lambda item: item[0]):
        if group and len(found) >= LEAST_IN_ROW:
            middle = float(np.median([one.magnification for one in found]))
            rows.append(
                LessonRow(
                    label=f"{group}, air {steadiness} of 5",
                    value=middle,
                    words=f"{middle:.0f}×",
                    records=len(found),
                )
            )
    counted = sum(row.records for row in rows)
    if not rows:
        sentence = (
            f"Note power and air: from {LEAST_IN_ROW} notes of one kind in one air on, "
            "this shows what you really use."
        )
        return _few("powers", title, sentence, len(notes), LEAST_IN_ROW)
    top = max(rows, key=lambda row: row.value)
    sentence = (
        f"Half of the time you stay under {top.words} on {top.label}. From {LEAST_NOTES} notes of "
        f"bright things on {LEAST_EVENINGS} evenings in one air on, the top rung and the case for "
        "tonight go by it."
    )
    return _taught("powers", title, sentence, counted, rows)


def _group(kind: str) -> str:
    traits = KINDS.get(kind)
    return "" if traits is None else GROUPS[traits.shape]


def _grouped(things: Sequence[T], key: Callable[[T], K]) -> dict[K, list[T]]:
    found: dict[K, list[T]] = {}
    for one in things:
        found.setdefault(key(one), []).append(one)
    return found


def hours_lesson(sittings: Sequence[Sitting], names: Mapping[int, str]) -> Lesson:
    """Return the hours each eyepiece was in, by the presses; ``names`` go by its number.

    One look lasts until the next, and no longer than two hours.

    Source: rules.md#lessons.
    """
    title = "Hours per eyepiece"
    hours: dict[int, float] = {}
    uses: dict[int, int] = {}
    for sitting in sittings:
        for eyepiece_id, spent in _stays(sitting):
            hours[eyepiece_id] = hours.get(eyepiece_id, 0.0) + spent
            uses[eyepiece_id] = uses.get(eyepiece_id, 0) + 1
    total = sum(hours.values())
    if total < LEAST_HOURS:
        sentence = "Press through an evening at the eyepiece: after an hour this compares them."
        return _few("hours", title, sentence, len(sittings), 1)
    order = sorted(hours, key=lambda one: -hours[one])
    rows = [
        LessonRow(
            label=names.get(one, "an eyepiece taken out since"),
            value=hours[one],
            words=f"{hours[one]:.1f} h",
            records=uses[one],
        )
        for one in order
    ]
    idle = [name for number, name in names.items() if number not in hours]
    sentence = f"{rows[0].label} was in for {100 * rows[0].value / total:.0f} % of {total:.1f} h."
    if idle:
        left = "stays" if len(idle) == 1 else "stay"
        sentence += f" {', '.join(idle[:3])} {left} in the case."
    return _taught("hours", title, sentence, len(sittings), rows)


def _stays(sitting: Sitting) -> list[tuple[int, float]]:
    """Return eyepiece and hours of every look."""
    found = []
    for look, until in with_ends(looks_in_order(sitting), sitting):
        eyepieces, _ = pieces_of([look.rung_key])
        spent = until - look.at_utc
        found += [(one, spent.total_seconds() / 3600) for one in eyepieces]
    return found


class Tried(NamedTuple):
    """One note with what was promised of its target: margin for a perfect eye, and outcome."""

    observer_name: str
    margin: float
    outcome: Outcome


def eyes_lesson(tried: Sequence[Tried], people: Sequence[Observer]) -> Lesson:
    """Return how eyes do against what was promised, and the factors that would fit them.

    A factor is offered from enough notes of both kinds, seen and not, and never taken by itself.

    Source: rules.md#learned-eye.
    """
    title = "Seen against promised"
    rows, offers = [], []
    for person in people:
        own = [one for one in tried if folded(one.observer_name) == folded(person.name)]
        held = sum(one.outcome == "seen" for one in own)
        if len(own) < LEAST_JUDGED or min(held, len(own) - held) < LEAST_EACH_WAY:
            continue
        fitted, now = fitted_factor(own), field_factor(person)
        words = f"{fitted:.1f} times a perfect eye's light"
        rows.append(
            LessonRow(label=person.name, value=fitted, words=words, records=len(own), mark=now)
        )
        if abs(np.log10(fitted / now)) >= WORTH_OFFERING and person.id is not None:
            offers.append(
                EyeOffer(
                    observer_id=person.id,
                    version=person.version,
                    field_factor=round(fitted, 2),
                    now=now,
                    words=f"Reckon {person.name}'s eye with {fitted:.1f} instead of {now:.1f}?",
                )
            )
    if not rows:
        sentence = (
            f"From {LEAST_JUDGED} notes of faint things on, at least {LEAST_EACH_WAY} seen and "
            f"{LEAST_EACH_WAY} glimpsed or not seen, this shows whether the promises fit your eye."
        )
        return _few("eyes", title, sentence, len(tried), LEAST_JUDGED)
    first = rows[0]
    sentence = f"{first.label} needs {first.words}, as {first.records} notes show."
    taught = _taught("eyes", title, sentence, len(tried), rows)
    return taught.model_copy(update={"offers": offers})


def fitted_factor(tried: Sequence[Tried]) -> float:
    """Return the factor under which outcomes are likeliest, from 1 to 6.

    Each try succeeds with the chance a normal curve gives at its margin; a glimpse counts as half
    seen.

    Source: rules.md#learned-eye: maximum likelihood.
    """
    margins = np.array([one.margin for one in tried])
    seen = np.array([OUTCOME_SHARE[one.outcome] for one in tried])
    over = (margins - np.log10(FACTORS)[:, np.newaxis] - HELD_AT) / SCATTER
    chance = np.clip(_normal(over), 1e-4, 1 - 1e-4)
    fit = (seen * np.log(chance) + (1 - seen) * np.log(1 - chance)).sum(axis=1)
    return float(FACTORS[int(fit.argmax())])


OUTCOME_SHARE: dict[Outcome, float] = {"seen": 1.0, "glimpsed": 0.5, "not seen": 0.0}


def _normal(x: Floats) -> Floats:
    """Return the normal distribution, by the logistic curve nearest to it."""
    return np.asarray(1 / (1 + np.exp(-1.702 * np.clip(x, -30, 30))))


class Judgement(NamedTuple):
    """What one evening was judged to be: where, in which month, how steady and how dark."""

    place_name: str
    month: int
    steadiness: float | None
    faintest_mag: float | None


def skies_lesson(judged: Sequence[Judgement]) -> Lesson:
    """Return steadiness and darkness by place and month.  Source: rules.md#lessons."""
    title = "Air and sky by place and month"
    rows = []
    grouped = _grouped(judged, lambda one: (one.place_name, one.month))
    for (place, month), found in sorted(grouped.items()):
        steady = [one.steadiness for one in found if one.steadiness is not None]
        if len(steady) < LEAST_EVENINGS:
            continue
        faint = [one.faintest_mag for one in found if one.faintest_mag is not None]
        mean = float(np.mean(steady))
        words = f"{mean:.1f} of 5" + (f", to {np.median(faint):.1f} mag" if faint else "")
        label = f"{place or 'no place named'}, {MONTHS[month - 1]}"
        rows.append(LessonRow(label=label, value=mean, words=words, records=len(steady)))
    if not rows:
        sentence = (
            f"Judge the air: from {LEAST_EVENINGS} evenings of one month at one place on, "
            "this shows when it is calm."
        )
        return _few("skies", title, sentence, len(judged), LEAST_EVENINGS)
    rows.sort(key=lambda row: -row.value)
    best = rows[0]
    sentence = f"The calmest was {best.label}: steadiness {best.words}."
    return _taught("skies", title, sentence, len(judged), rows)


def fields_lesson(drifts: Sequence[TimedDrift], eyepieces: Mapping[int, Eyepiece]) -> Lesson:
    """Return field stops as timed drifts give them, against what the label means.

    Source: rules.md#field; rules.md#lessons.
    """
    title = "Real fields from timed drifts"
    rows = []
    for number, found in sorted(_grouped(drifts, lambda one: one.eyepiece_id).items()):
        timed = float(np.median([one.field_stop_mm for one in found]))
        eyepiece = eyepieces.get(number)
        claimed = None
        if eyepiece is not None and eyepiece.apparent_field_deg is not None:
            claimed = float(np.radians(eyepiece.apparent_field_deg)) * eyepiece.focal_length_mm
        words = f"{timed:.1f} mm" + (f", the label means {claimed:.1f} mm" if claimed else "")
        rows.append(
            LessonRow(
                label=found[-1].eyepiece_name,
                value=timed,
                words=words,
                records=len(found),
                mark=claimed,
            )
        )
    if not rows:
        sentence = "Time a star from edge to edge: the field that is really there shows here."
        return _few("fields", title, sentence, 0, 1)
    first = rows[0]
    sentence = f"{first.label}: a field stop of {first.words}."
    return _taught("fields", title, sentence, len(drifts), rows)
