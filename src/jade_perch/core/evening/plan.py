"""Tonight's plan: wished targets in order over the night, breaks, and what was left out."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Annotated, Literal

import numpy as np

from jade_perch.core.arrays import Floats, Integers, Truths
from jade_perch.core.bench.budget import zenith_from_deg
from jade_perch.core.evening.judging import Judged, course, judge
from jade_perch.core.evening.outlook import Clearest
from jade_perch.core.evening.prospect import Case, Prospect
from jade_perch.core.evening.prospects import Prospects, worth_of_row
from jade_perch.core.evening.schedule import Chosen, Problem, best_order
from jade_perch.core.fields import Frozen, Id, Item, Name, Range, UtcTime
from jade_perch.core.kit import Mount
from jade_perch.core.moments import utc_of
from jade_perch.core.sky.nightsky import STEP_S
from jade_perch.core.sky.seen import WORDS, Word, word_of
from jade_perch.core.sky.skylight import separation_altaz_deg

SHOWPIECE_MINUTES, HUNT_MINUTES = 10, 20  # slack for an easy one and for a hunt
BREAK_EVERY, BREAK = timedelta(minutes=90), timedelta(minutes=15)  # to warm up
HEIGHTS_DEG, HEIGHT_COUNTS = (10.0, 20.0, 45.0), (0.5, 0.7, 1.0)  # what stands so high counts
ZENITH_COUNTS = 0.3  # where the mount cannot follow
FAINT_COUNTS = 0.4  # what is only just seen counts so much of what is plain
SWAP_COSTS, MOVE_COSTS = 0.08, 0.06  # of worth: another eyepiece, a quarter of the sky; our choices
WAIT_COSTS = 0.002  # of worth, for each slot later; so that nobody waits for nothing
PINNED_WORTH = 100.0  # what is pinned goes before all that is not
MOST_ITEMS = 40
MOST_PICKED, EARLY = 8, timedelta(hours=2)  # what fills an evening, and shows so soon; our choice
SKIPPED = "Skipped."  # why a wish is left out that somebody skipped
RESERVE = 3  # plainest things kept for a gap in the clouds
HIGH_DEG = 30.0  # the clearest part of a cloudy sky begins about there; our estimate
HALF_HOUR = timedelta(minutes=30)
Minutes = Annotated[int, Range(5, 180, "minutes", "Say how long you want to look.")]


class PlanItem(Item):
    """One wish for an evening: a target, how long, and when where somebody insists.

    ``not_before_utc`` puts it off; what is pinned stays pinned.
    """

    evening_id: Id | None = None
    target_key: Name
    minutes: Minutes | None = None
    pinned_utc: UtcTime | None = None
    not_before_utc: UtcTime | None = None
    is_skipped: bool = False


class Block(Frozen):
    """A stretch of the plan: a target with its glass, or a break."""

    kind: Literal["target", "break"]
    item_id: int | None
    target_key: str | None
    label: str
    starts_utc: datetime
    ends_utc: datetime
    minutes: int
    rung_key: str | None
    rung_label: str
    word: Word | None
    is_pinned: bool


class LeftOut(Frozen):
    """A wish that has no place in the plan, and why."""

    item_id: int | None
    target_key: str
    label: str
    why: str


class Plan(Frozen):
    """The evening's plan from a moment on; ``words`` says how good its order is.

    ``reserve`` is for a gap in the clouds, as things stand at ``reserve_by``, the clearest hour;
    None where no hour is known, and then as they stand now.
    """

    from_utc: datetime
    blocks: list[Block]
    left_out: list[LeftOut]
    swaps: int
    words: str
    reserve: list[str]
    reserve_by: Clearest | None


@dataclass(frozen=True, slots=True)
class _Wish:
    """One wish that can be looked at; ``judged`` of the plan have the same order."""

    item: PlanItem
    label: str
    row: int


def make_plan(
    case: Case,
    items: Sequence[PlanItem],
    mount: Mount,
    from_utc: datetime,
    listed: Prospects,
    clearest: Clearest | None = None,
) -> Plan:
    """Return the best order of an evening's wishes from a moment on.

    ``clearest`` is the hour with the least cloud, where anybody knows.

    Source: rules.md#schedule.
    """
    first = int(np.searchsorted(case.sky.unix_s, from_utc.timestamp() - 1e-3))
    seconds = case.sky.unix_s[first:]
    wishes, left_out = _wishes(case, items)
    rows = np.array([one.row for one in wishes], dtype=int)
    judged = judge(case.catalogue, case.sky, rows, case.glasses, case.viewer.field_factor)
    quality, margins = _quality(case, judged, first, len(seconds), _zenith_deg(case, mount))
    problem = _problem(case, wishes, judged, quality, seconds, from_utc)
    chosen = best_order(problem)
    rungs = judged.rung.tolist()
    blocks = []
    for n, at in zip(chosen.order, chosen.starts, strict=True):
        slots = int(problem.slots[n])
        shown = float(margins[n, at : at + slots].min())
        blocks.append(_block(case, wishes[n], slots, rungs[n], shown, float(seconds[at])))
    late = [n for n in range(len(wishes)) if n not in chosen.order]
    left_out += [_left(wishes[n].item, wishes[n].label, _why_left(problem, n)) for n in late]
    order = [rungs[n] for n in chosen.order]
    return Plan(
        from_utc=from_utc,
        blocks=_with_breaks(blocks, from_utc),
        left_out=left_out,
        swaps=sum(a != b for a, b in pairwise(order)),
        words=_words(chosen),
        reserve=_reserve(listed, clearest),
        reserve_by=clearest,
    )


def _wishes(case: Case, items: Sequence[PlanItem]) -> tuple[list[_Wish], list[LeftOut]]:
    """Return the wishes that can be looked at tonight, and those that cannot, with the reason."""
    wishes, skipped, gone = [], [], []
    for item in items:
        row = case.catalogue.row_of(item.target_key)
        label = item.target_key if row is None else case.catalogue.labels[row]
        if row is None or item.is_skipped:
            why = SKIPPED if item.is_skipped else "The catalogue does not know it any more."
            skipped.append(_left(item, label, why))
            continue
        if case.catalogue.features[row]:
            row = case.catalogue.row_of("moon") or 0
        if case.sky.best[row] < 0:
            gone.append(_left(item, label, "It cannot be looked at tonight."))
        else:
            wishes.append(_Wish(item, label, row))
    return wishes, skipped + gone


def _slots(wish: _Wish, margin: float) -> int:
    """Return how many slots a target takes: as said, else few for an easy one, more for a hunt."""
    usual = SHOWPIECE_MINUTES if margin >= WORDS[0][1] else HUNT_MINUTES
    return max(1, round((wish.item.minutes or usual) * 60 / STEP_S))


def _left(item: PlanItem, label: str, why: str) -> LeftOut:
    return LeftOut(item_id=item.id, target_key=item.target_key, label=label, why=why)


def _zenith_deg(case: Case, mount: Mount) -> float:
    """Return from what altitude on the mount cannot follow; 90 where it always can."""
    from_deg = zenith_from_deg(mount.traits.drive, case.site.latitude_deg)
    return 90.0 if from_deg is None else from_deg


def _quality(
    case: Case, judged: Judged, first: int, times: int, zenith_deg: float
) -> tuple[Floats, Floats]:
    """Return how well each judged target shows at each slot, 0 to 1, and its margins; (M, T).

    Where it does not show both are -inf.
    """
    quality = np.full((len(judged.rows), times), -np.inf)
    known = quality.copy()
    courses = course(case.catalogue, case.sky, judged, case.glasses, case.viewer.field_factor)
    for number, (entries, margins) in enumerate(courses):
        seen = np.clip(margins / WORDS[0][1], 0.0, 1.0)
        worth = FAINT_COUNTS + (1 - FAINT_COUNTS) * seen
        height = case.sky.altitude_deg[entries]
        worth = worth * np.interp(height, HEIGHTS_DEG, HEIGHT_COUNTS)
        worth = worth * np.where(height > zenith_deg, ZENITH_COUNTS, 1.0)
        at = case.sky.step[entries] - first
        shows = (margins >= WORDS[-1][1]) & (at >= 0)
        shows &= _is_offered(case, int(judged.rows[number]), case.sky.step[entries])
        quality[number, at[shows]] = worth[shows]
        known[number, at[shows]] = margins[shows]
    return quality, known


def _is_offered(case: Case, row: int, steps: Integers) -> Truths:
    """Return at which steps the list offers a target: planets wait until the sky is dim enough."""
    key, seconds = case.catalogue.keys[row], case.sky.unix_s[steps]
    sight = next((one for one in case.tonight.sights if one.target.key == key), None)
    if sight is None:
        return np.ones(seconds.shape, dtype=bool)
    start, end = sight.best_from_utc, sight.best_until_utc
    if start is None or end is None:
        return np.zeros(seconds.shape, dtype=bool)
    return np.asarray((seconds >= start.timestamp()) & (seconds <= end.timestamp()))


def _problem(
    case: Case,
    wishes: Sequence[_Wish],
    judged: Judged,
    quality: Floats,
    seconds: Floats,
    from_utc: datetime,
) -> Problem:
    times = len(seconds)
    is_break = _break_slots(seconds, from_utc)
    slots = np.array(
        [_slots(one, margin) for one, margin in zip(wishes, judged.margin, strict=True)], dtype=int
    )
    gain = np.full((len(wishes), times), -np.inf)
    for number, wish in enumerate(wishes):
        length = int(slots[number])
        if wish.item.pinned_utc is not None:
            since = wish.item.pinned_utc.timestamp() - (seconds[0] if times else 0.0)
            at = round(since / STEP_S)
            if 0 <= at < times and at + length <= times:
                gain[number, at] = PINNED_WORTH
            continue
        means = _means(np.where(is_break, -np.inf, quality[number]), length)
        worth = worth_of_row(case.catalogue, wish.row)
        gain[number, : means.size] = worth * means - WAIT_COSTS * np.arange(means.size)
        if wish.item.not_before_utc is not None:
            gain[number, seconds < wish.item.not_before_utc.timestamp()] = -np.inf
    return Problem(gain, slots, _costs(case, judged))


def _means(quality: Floats, slots: int) -> Floats:
    """Return the mean over so many slots from each on; -inf where one of them is."""
    if slots > quality.size:
        return np.zeros(0)
    windows = np.lib.stride_tricks.sliding_window_view(quality, slots)
    return np.asarray(windows.mean(axis=1))


def _break_slots(seconds: Floats, from_utc: datetime) -> Truths:
    """Return which slots are breaks, (T,)."""
    since = seconds - from_utc.timestamp()
    every = (BREAK_EVERY + BREAK).total_seconds()
    return np.asarray(since % every >= BREAK_EVERY.total_seconds())


def _costs(case: Case, judged: Judged) -> Floats:
    """Return what going from one to another costs: another eyepiece, and the way across the sky."""
    rung, entry = judged.rung, judged.entry
    high, around = case.sky.altitude_deg[entry], case.sky.azimuth_deg[entry]
    away = separation_altaz_deg(high[:, np.newaxis], around[:, np.newaxis], high, around)
    return np.asarray(SWAP_COSTS * (rung[:, np.newaxis] != rung) + MOVE_COSTS * away / 90)


def _block(case: Case, wish: _Wish, slots: int, rung: int, margin: float, start_s: float) -> Block:
    return Block(
        kind="target",
        item_id=wish.item.id,
        target_key=wish.item.target_key,
        label=wish.label,
        starts_utc=utc_of(start_s),
        ends_utc=utc_of(start_s + slots * STEP_S),
        minutes=round(slots * STEP_S / 60),
        rung_key=case.rungs[rung].key if case.rungs else None,
        rung_label=case.rungs[rung].label if case.rungs else "",
        word=word_of(margin),
        is_pinned=wish.item.pinned_utc is not None,
    )


def _with_breaks(blocks: list[Block], from_utc: datetime) -> list[Block]:
    """Return blocks with the breaks that lie before the last of them."""
    found, at = list(blocks), from_utc + BREAK_EVERY
    while blocks and at < blocks[-1].starts_utc:
        ends = at + BREAK
        is_free = not any(one.starts_utc < ends and at < one.ends_utc for one in blocks)
        if is_free and any(ends <= one.starts_utc < ends + BREAK_EVERY for one in blocks):
            found.append(_break(at))
        at += BREAK_EVERY + BREAK
    return sorted(found, key=lambda one: one.starts_utc)


def _break(starts_utc: datetime) -> Block:
    return Block(
        kind="break",
        item_id=None,
        target_key=None,
        label="Warm-up",
        starts_utc=starts_utc,
        ends_utc=starts_utc + BREAK,
        minutes=round(BREAK.total_seconds() / 60),
        rung_key=None,
        rung_label="",
        word=None,
        is_pinned=False,
    )


def _why_left(problem: Problem, number: int) -> str:
    if not np.isfinite(problem.gain[number]).any():
        return "It does not show long enough in what is left of the night."
    return "Others fill its time: give it fewer minutes, or pin it."


def _words(chosen: Chosen) -> str:
    if not chosen.order:
        return ""
    if chosen.is_exact:
        return "The best order there is."
    share = chosen.value / chosen.bound if chosen.bound > 0 else 1.0
    return f"A good order: at least {100 * share:.0f} % of the best possible."


def _reserve(listed: Prospects, clearest: Clearest | None) -> list[str]:
    """Return the plainest things in the clearest part, for a gap in the clouds.

    At the clearest hour, and high: clouds hide least of what stands high.
    """
    at_utc = listed.tonight.at_utc if clearest is None else clearest.hour_utc + HALF_HOUR
    found = [
        (height, one)
        for one in listed.prospects
        if one.target.kind != "star"
        and one.from_utc is not None
        and one.until_utc is not None
        and one.from_utc <= at_utc <= one.until_utc
        and (height := _height_deg(one, at_utc)) is not None
    ]
    found.sort(key=lambda pair: (pair[0] < HIGH_DEG, -pair[1].margin))
    return [one.target.label for _, one in found[:RESERVE]]


def _height_deg(one: Prospect, at_utc: datetime) -> float | None:
    """Return how high a target stands at a moment, between the hours of its track."""
    if not one.track:
        return None
    seconds = [point.at_utc.timestamp() for point in one.track]
    heights = [point.altitude_deg for point in one.track]
    return float(np.interp(at_utc.timestamp(), seconds, heights))


def picked(listed: Prospects, from_utc: datetime) -> list[str]:
    """Return what an evening is filled with where nobody said: the best that show early on.

    Source: rules.md#schedule.
    """
    latest = from_utc + EARLY
    early = [
        one.target.key
        for one in listed.prospects
        if one.when != "not tonight" and one.from_utc is not None and one.from_utc <= latest
    ]
    return early[:MOST_PICKED]


def default_start(case: Case, now_utc: datetime) -> datetime:
    """Return from when a plan runs: now, or the first moment with the Sun down.

    Source: rules.md#schedule.
    """
    first = utc_of(float(case.sky.unix_s[0]))
    return max(first, now_utc) if now_utc <= case.night.end_utc else first
