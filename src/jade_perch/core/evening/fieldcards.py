"""Field cards: what a planned target wants on paper, from finding it to what will be seen."""

from datetime import datetime

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.expect import expected
from jade_perch.core.evening.finding import FindingPath, make_path
from jade_perch.core.evening.plan import Block, Plan
from jade_perch.core.evening.prospect import EYE, Case, look_of
from jade_perch.core.evening.view import Disc, Through, make_disc
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import clock_time, day_words
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.sky.seen import NOT_SEEN
from jade_perch.core.sky.targets import Target


class FieldCard(Frozen):
    """One target on paper; ``start_label`` is the glass to find it with, ``disc`` what it shows.

    ``path`` is None where no bright star stands clear, ``disc`` without a telescope.
    """

    label: str
    detail: str
    when: str
    glass: str
    word: str
    expected: str
    path: FindingPath | None
    disc: Disc | None
    start_label: str


class FieldCards(Frozen):
    """The cards of an evening's plan in its order."""

    title: str
    subtitle: str
    footer: str
    cards: list[FieldCard]


def make_cards(case: Case, plan: Plan, desk: Desk) -> FieldCards:
    """Return a card for each target of a plan, as it stands in the middle of its time.

    Raises ``OutOfRange`` for a plan without targets.

    Source: rules.md#paper.
    """
    blocks = [one for one in plan.blocks if one.kind == "target"]
    if not blocks:
        raise OutOfRange("plan", "(nothing)", "a plan with targets", "Plan the evening first.")
    start = _start(desk)
    tube = "the eye alone" if desk.telescope is None else desk.telescope.name
    return FieldCards(
        title=f"{day_words(case.night.date)}, {case.site.name}",
        subtitle=tube,
        footer=_footer(case),
        cards=[_card(case, desk, one, start) for one in blocks],
    )


def _footer(case: Case) -> str:
    rises = case.night.sunrise_utc
    until = "" if rises is None else f" Stop before sunrise at {clock_time(rises, case.site.zone)}."
    return f"A finder is a telescope too.{until} Each chart is turned as its glass shows it."


def _start(desk: Desk) -> Rung | None:
    """Return the rung every search begins with, or None without a telescope and eyepieces."""
    if desk.telescope is None:
        return None
    ladder = desk.ladder_of(desk.telescope, desk.diagonal)
    key = None if ladder.start is None else ladder.start.key
    return next((one for one in ladder.rungs if one.key == key), None)


def _card(case: Case, desk: Desk, block: Block, start: Rung | None) -> FieldCard:
    target = case.catalogue.get(block.target_key or "")
    middle = block.starts_utc + (block.ends_utc - block.starts_utc) / 2
    word = block.word or NOT_SEEN
    return FieldCard(
        label=target.label,
        detail=_detail(target),
        when=f"{clock_time(block.starts_utc, case.site.zone)}, {block.minutes} min",
        glass=_glass(block, start),
        word=word,
        expected=expected(look_of(case, target, word, block.rung_key)),
        path=make_path(case.catalogue, case.site, target, desk.finders, case.viewer, middle),
        disc=_disc(case, desk, target, start, middle),
        start_label="" if start is None else _rung_words(start.label, start.magnification),
    )


def _detail(target: Target) -> str:
    parts = [target.detail or target.traits.title, target.constellation]
    if target.magnitude is not None:
        parts.append(f"magnitude {target.magnitude:.1f}")
    return ", ".join(part for part in parts if part)


def _rung_words(label: str, magnification: float) -> str:
    return f"{label}, {magnification:.0f}×"


def _glass(block: Block, start: Rung | None) -> str:
    if start is None:
        return EYE
    if block.rung_key in (None, start.key):
        return f"Find and look: {_rung_words(start.label, start.magnification)}"
    return f"Find with {start.label}, look with {block.rung_label}"


def _disc(
    case: Case, desk: Desk, target: Target, start: Rung | None, at_utc: datetime
) -> Disc | None:
    if desk.telescope is None or start is None:
        return None
    polar = desk.known_mount.traits.has_polar_axis
    through = Through(desk.telescope, desk.diagonal, start, polar)
    return make_disc(through, target, case.catalogue, case.site, at_utc, is_now=False)
