"""Why a target is worth a look tonight, or not: one reason each, in words."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from math import isfinite
from typing import Literal

from jade_perch.core.moments import clock_time
from jade_perch.core.sky.seen import Word
from jade_perch.core.sky.targets import Target

When = Literal["now", "later", "not tonight"]
GainName = Literal["more_power", "less_power", "darker_place", "moon_gone", "more_aperture"]
SOON = timedelta(hours=2)  # what ends within it goes first; our choice
GAIN_SAID = 0.15  # of margin: a change that adds less is not worth naming; our choice
FILLS = 0.28  # of the field, from which its size is the reason
NEAR_BEST = timedelta(minutes=40)
GAIN_WORDS: dict[GainName, str] = {
    "more_power": "more power",
    "less_power": "less power",
    "darker_place": "a darker place",
    "moon_gone": "the Moon gone",
    "more_aperture": "more aperture",
}
SHARES = ((0.42, "a third"), (0.6, "half"), (0.9, "most"), (9.9, "all"))


@dataclass(frozen=True, slots=True)
class Times:
    """When a target shows: from, until, and best; None where it does not."""

    when: When
    from_utc: datetime | None
    until_utc: datetime | None
    best_utc: datetime | None


@dataclass(frozen=True, slots=True)
class Standing:
    """What a reason is made of.

    ``goes_behind`` says what ends the view, empty for dawn; ``moon_sets_utc`` is None where the
    Moon costs little.
    """

    target: Target
    word: Word
    times: Times
    zone: str
    at_utc: datetime
    best_altitude_deg: float
    moon_sets_utc: datetime | None
    gains: Mapping[str, float]
    field_share: float
    rung_label: str
    goes_behind: str

    def clock(self, moment_utc: datetime | None) -> str:
        """Return a moment as people read it here.  Source: rules.md#words."""
        return "" if moment_utc is None else clock_time(moment_utc, self.zone)


def best_help(gains: Mapping[str, float]) -> GainName | None:
    """Return the change that would add most, or None where none adds enough to be named.

    Source: rules.md#seen.
    """
    names: tuple[GainName, ...] = (
        "more_power", "less_power", "moon_gone", "darker_place", "more_aperture",
    )  # fmt: skip
    known = [name for name in names if isfinite(gains[name])]
    best = max(known, key=lambda name: gains[name], default=None)
    return best if best is not None and gains[best] >= GAIN_SAID else None


def reason_of(one: Standing) -> str:
    """Return the one reason that matters most for a target that shows tonight.

    Source: rules.md#prospects.
    """
    times, until = one.times, one.times.until_utc
    ends_soon = until is not None and until - one.at_utc <= SOON and bool(one.goes_behind)
    if times.when == "now" and ends_soon:
        return f"Sets first: {one.goes_behind} {one.clock(until)}."
    after_moon = (
        one.moon_sets_utc is not None
        and times.best_utc is not None
        and times.best_utc >= one.moon_sets_utc > one.at_utc
    )
    if after_moon and one.target.traits.shape in ("glow", "cluster"):
        return f"Moon gone after {one.clock(one.moon_sets_utc)}."
    if one.gains.get("moon_gone", 0.0) >= GAIN_SAID and one.word in ("with care", "at the limit"):
        return "The Moon washes it out; come back on a moonless night."
    if one.word in ("with care", "at the limit"):
        helps = best_help(one.gains)
        if helps is not None:
            return f"Hard from here: {GAIN_WORDS[helps]} would help most."
    if one.field_share >= FILLS and one.target.traits.shape in ("glow", "cluster", "disc"):
        part = next(words for most, words in SHARES if one.field_share < most)
        return f"Fills {part} of the {one.rung_label} field."
    return _place_reason(one)


def _place_reason(one: Standing) -> str:
    best, high = one.times.best_utc, f"{one.best_altitude_deg:.0f}° up"
    if one.times.when == "later":
        return f"From {one.clock(one.times.from_utc)}; best {one.clock(best)}, {high}."
    if best is not None and best - one.at_utc > NEAR_BEST:
        return f"Still climbing: best {one.clock(best)}, {high}."
    return f"Stands well now, {high}."


def over(one: Standing) -> str:
    """Return that a target showed earlier.  Source: rules.md#prospects."""
    return f"Its time is over: it showed until {one.clock(one.times.until_utc)}."


def why_not_of(gains: Mapping[str, float] | None, highest_deg: float, lowest_deg: float) -> str:
    """Return why a target does not show tonight.

    ``gains`` None says it never stands clear of the skyline and of the air under ``lowest_deg``;
    ``highest_deg`` is its highest place while the Sun is down.

    Source: rules.md#prospects.
    """
    if highest_deg <= 0:
        return "Below the horizon all night."
    if highest_deg < lowest_deg:
        return f"Gets no higher than {highest_deg:.0f}°."
    if gains is None:
        return "Stays behind your skyline."
    helps = best_help(gains)
    if helps == "moon_gone":
        return "The Moon washes it out: wait for a moonless night."
    if helps is None:
        return "Too faint for this glass."
    return f"Too faint from here: {GAIN_WORDS[helps]} would help most."
