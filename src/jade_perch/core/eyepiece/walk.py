"""The walk to one target: where to point, the start rung, then up rung by rung, and down again.

Worked out whole, so that a page can go on with it while nobody answers.
"""

from collections.abc import Sequence

from jade_perch.core.constants import GAP_RATIO
from jade_perch.core.evening.choose import CALM_RATIO
from jade_perch.core.evening.finding import FindingPath
from jade_perch.core.evening.prospect import Prospect
from jade_perch.core.eyepiece.lookfor import LookFor
from jade_perch.core.eyepiece.sitting import Spot, SpotKind
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.limits import ROUNDING_MM, SCHOOL_EXIT_PUPIL_MM
from jade_perch.core.optics.neighbours import SAME
from jade_perch.core.optics.rungs import Rung

CLIMB_RATIO = 1.25  # a rung less than this above the last one shows nothing new; our choice
SWEEP = "Sweep slowly in the longest eyepiece, by height and direction."
SAFE = "Caps on until the tube points there by eye. Never sweep while the Sun is up."
DISCS = ("moon", "planet", "Moon feature")  # focused on an edge, not on a star
FINE = (*DISCS, "star", "double star")  # whose detail calm moments show; the air ends the climb


class WalkStep(Frozen):
    """One step: an instruction of at most 15 words, what goes with it, and where presses lead.

    ``next``, ``softer`` and ``enough`` are numbers in the walk, None where there is no such way;
    ``softer`` is "dimmer and softer".  ``button`` is what the one large button says.
    """

    spot: Spot
    instruction: str
    detail: str
    button: str
    next: int | None
    softer: int | None = None
    enough: int | None = None


class Walk(Frozen):
    """All steps to one target, the first where one points; ``rung_keys`` are those it climbs."""

    steps: list[WalkStep]
    rung_keys: list[str]


def climb_rungs(ladder: Ladder, prospect: Prospect) -> tuple[list[Rung], Rung | None]:
    """Return the rungs to climb for a target, the start first, and which of them is best.

    What the air, the smallest useful beam or a plainer twin rules out is not among them; for discs
    and points of light one rung above the best may be, for calm moments.

    Source: rules.md#walk; rules.md#choose for the best one.
    """
    full = {rung.key: rung for rung in ladder.rungs if not rung.is_masked}
    if ladder.start is None or ladder.start.key not in full:
        return [], None
    start = full[ladder.start.key]
    top = full.get(_top_key(prospect) or start.key, start)
    if top.magnification <= start.magnification * SAME:
        return [start], start
    kept = {key: twin.keep for twin in ladder.twins for key in twin.keys}
    usable = [
        one
        for one in full.values()
        if kept.get(one.key, one.key) == one.key
        and one.exit_pupil_mm >= SCHOOL_EXIT_PUPIL_MM["steady"] - ROUNDING_MM
        and one.magnification <= CALM_RATIO * ladder.air_magnification * SAME
    ]
    climbed = [start]
    below = [one for one in usable if one.magnification < top.magnification / CLIMB_RATIO]
    while (step := _next([*below, top], climbed[-1])) is not None and step != top:
        climbed.append(step)
    climbed.append(top)
    above: list[Rung] = []
    if prospect.target.kind in FINE:  # for the others it is not the air that ends the climb
        above = [one for one in usable if one.magnification >= top.magnification * CLIMB_RATIO]
    return [*climbed, *above[:1]], top


def _top_key(prospect: Prospect) -> str | None:
    glass = None if prospect.sight is None else prospect.sight.glass
    if glass is None:
        return prospect.rung_key
    return (glass.detail or glass.top).key


def _next(usable: Sequence[Rung], now: Rung) -> Rung | None:
    """Return the next rung worth putting in: a plain one in reach, else the next there is."""
    above = [one for one in usable if one.magnification >= now.magnification * CLIMB_RATIO]
    plain = [one for one in above if not one.amplifier_ids]
    in_reach = [one for one in plain if one.magnification <= GAP_RATIO * now.magnification]
    return next(iter(in_reach or above), None)


def make_walk(
    ladder: Ladder,
    prospect: Prospect,
    path: FindingPath | None,
    looks: Sequence[LookFor],
    amplifiers: Sequence[Amplifier],
    *,
    by_day: bool = False,
) -> Walk:
    """Return the walk to a target; ``looks`` is what to look for there, from easy to demanding.

    ``by_day`` while the Sun is up: then nothing is swept.

    Source: rules.md#walk.
    """
    rungs, top = climb_rungs(ladder, prospect)
    made = _Maker(ladder, prospect, looks, amplifiers, rungs, top)
    steps = made.steps(path, by_day=by_day)
    return Walk(steps=steps, rung_keys=[one.key for one in rungs])


class _Maker:
    """Lays the steps of one walk in a row: up by four a rung, then down by four, then the note."""

    def __init__(
        self,
        ladder: Ladder,
        prospect: Prospect,
        looks: Sequence[LookFor],
        amplifiers: Sequence[Amplifier],
        rungs: Sequence[Rung],
        top: Rung | None,
    ) -> None:
        self.ladder, self.prospect, self.looks = ladder, prospect, looks
        self.amplifiers = {one.id: one for one in amplifiers}
        self.rungs, self.top = list(rungs), top
        self.focus_on = "sharpest edge" if prospect.target.kind in DISCS else "smallest stars"

    def steps(self, path: FindingPath | None, *, by_day: bool) -> list[WalkStep]:
        """Return all steps in a row.  Source: rules.md#walk."""
        up = [self._up(number) for number in range(len(self.rungs))]
        down = [self._down(number) for number in range(len(self.rungs) - 1)]
        steps = [
            self._point(path, SAFE if by_day else SWEEP),
            *(one for four in (*up, *down) for one in four),
        ]
        return [*steps, self._note()]

    def _at(self, number: int, part: int, *, is_down: bool = False) -> int:
        """Return where a part of a rung stands in the row."""
        return 1 + 4 * (number + (len(self.rungs) if is_down else 0)) + part

    @property
    def _end(self) -> int:
        return 1 + 4 * (len(self.rungs) + max(0, len(self.rungs) - 1))

    def _spot(self, kind: SpotKind, rung: Rung | None = None, *, is_down: bool = False) -> Spot:
        key = "" if rung is None else rung.key
        target_key = self.prospect.target.key
        return Spot(target_key=target_key, kind=kind, rung_key=key, is_down=is_down)

    def _point(self, path: FindingPath | None, without: str) -> WalkStep:
        target = self.prospect.target
        label = "the Moon" if target.kind == "moon" else target.label
        detail = path.charts[-1].words if path is not None and path.charts else ""
        return WalkStep(
            spot=self._spot("point"),
            instruction=f"Find {label} with the longest eyepiece in.",
            detail=detail or without,
            button="It is in the field" if self.rungs else "I see it",
            next=1,
        )

    def _up(self, number: int) -> list[WalkStep]:
        rung = self.rungs[number]
        is_last = number + 1 == len(self.rungs)
        softer = self._at(number - 1, 0, is_down=True) if number else None
        ahead = self._end if is_last else self._at(number + 1, 0)
        put, why = self._put_words(number)
        look = self._look(number, self._spot("look", rung), ahead, softer)
        steps = [
            self._step(self._spot("put", rung), put, why, "It is in", self._at(number, 1)),
            self._focus(rung, number, self._at(number, 2), is_down=False),
            self._centre(rung, number, self._at(number, 3), is_down=False),
        ]
        return [*steps, look]

    def _down(self, number: int) -> list[WalkStep]:
        rung, over = self.rungs[number], self.rungs[number + 1]
        softer = self._at(number - 1, 0, is_down=True) if number else None
        put = f"Back to the {rung.label}, {rung.magnification:.0f}×."
        why = self._why_softer(over)
        at = [self._at(number, part, is_down=True) for part in range(4)]
        spot = self._spot("look", rung, is_down=True)
        return [
            self._step(self._spot("put", rung, is_down=True), put, why, "It is in", at[1]),
            self._focus(rung, number, at[2], is_down=True),
            self._centre(rung, number, at[3], is_down=True),
            self._look(number, spot, self._end, softer),
        ]

    def _step(self, spot: Spot, instruction: str, detail: str, button: str, ahead: int) -> WalkStep:
        return WalkStep(
            spot=spot, instruction=instruction, detail=detail, button=button, next=ahead,
            enough=self._end,
        )  # fmt: skip

    def _focus(self, rung: Rung, number: int, ahead: int, *, is_down: bool) -> WalkStep:
        word = "Refocus" if number or is_down else "Focus"
        spot = self._spot("focus", rung, is_down=is_down)
        detail = "Through the best point and back; if it grows, turn the other way."
        return self._step(spot, f"{word}: {self.focus_on}.", detail, "Sharp", ahead)

    def _centre(self, rung: Rung, number: int, ahead: int, *, is_down: bool) -> WalkStep:
        word = "Centre it again" if number or is_down else "Put it in the middle"
        spot = self._spot("centre", rung, is_down=is_down)
        detail = "Small pushes, hands off, let it settle. Its time in the field runs from here."
        return self._step(spot, f"{word}.", detail, "Centred", ahead)

    def _look(self, number: int, spot: Spot, ahead: int, softer: int | None) -> WalkStep:
        is_end = ahead == self._end
        share = self.looks[: max(1, round(len(self.looks) * (number + 1) / len(self.rungs)))]
        first = share[-1].words if share else "Look long: a minute shows more than a glance."
        others = " ".join(one.words for one in share[:-1])
        button = "Enough: write it down" if is_end else self._climb_words(number + 1)
        return WalkStep(
            spot=spot,
            instruction=first,
            detail=others,
            button=button,
            next=ahead,
            softer=softer,
            enough=None if is_end else self._end,
        )

    def _climb_words(self, number: int) -> str:
        rung = self.rungs[number]
        calm = self.top is not None and rung.magnification > self.top.magnification * SAME
        more = "In calm air: more power" if calm else "More power"
        return f"{more}, {rung.magnification:.0f}×"

    def _put_words(self, number: int) -> tuple[str, str]:
        rung, before = self.rungs[number], self.rungs[number - 1] if number else None
        adapters = f" {'; '.join(rung.adapters)}." if rung.adapters else ""
        if before is None:
            start = self.ladder.start
            return f"Put in the {rung.label}, {rung.magnification:.0f}×.", (
                "" if start is None else start.words
            ) + adapters
        new = [self.amplifiers[n] for n in rung.amplifier_ids if n in self.amplifiers]
        if new and not before.amplifier_ids:
            names = " and ".join(one.name for one in new)
            words = f"It stands centred: now {rung.label}, {rung.magnification:.0f}×."
            return words, f"With the {names}. Only what is centred stays.{adapters}"
        same = "Centre it first, then swap: the new field is smaller."
        return f"Put in the {rung.label}, {rung.magnification:.0f}×.", same + adapters

    def _why_softer(self, over: Rung) -> str:
        """Return why a rung showed no more, from what is known of it."""
        power = f"{over.magnification:.0f}×"
        if over.magnification > self.ladder.air_magnification * SAME:
            return (
                f"{power} is over what tonight's air gives, about "
                f"{self.ladder.air_magnification:.0f}×: it only blurs larger."
            )
        if over.exit_pupil_mm < SCHOOL_EXIT_PUPIL_MM["detail"]:
            return (
                f"{power} leaves a beam of {over.exit_pupil_mm:.1f} mm: dimmer, and nothing finer "
                "than the aperture gives."
            )
        if self.prospect.target.traits.shape in ("glow", "cluster"):
            return f"{power} spreads its glow {_spread(over, self.top)}: fainter against the sky."
        return f"Then the air is worse than judged: {power} shows nothing new just now."

    def _note(self) -> WalkStep:
        return WalkStep(
            spot=self._spot("note"),
            instruction="Write it down while it is fresh.",
            detail="One line will do: shape, brightness, what came only after a while.",
            button="Next target",
            next=None,
        )


def _spread(over: Rung, top: Rung | None) -> str:
    times = 1.0 if top is None else (over.magnification / top.magnification) ** 2
    return f"over {times:.1f} times the area" if times > 1.1 else "over a wider area"


def find_step(walk: Walk, spot: Spot | None) -> int:
    """Return where in a walk somebody stands; the beginning where the walk has no such step.

    Source: rules.md#walk.
    """
    return next((n for n, one in enumerate(walk.steps) if one.spot == spot), 0)
