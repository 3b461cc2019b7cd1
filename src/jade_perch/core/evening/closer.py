"""One target looked at closely: every rung's margin, what would help most, the sum behind it."""

from collections.abc import Sequence
from math import isfinite

import numpy as np

from jade_perch.core.evening.expect import expected
from jade_perch.core.evening.judging import Judged, gains, judge
from jade_perch.core.evening.prospect import Case, Prospect, gains_of, look_of
from jade_perch.core.evening.prospects import prospect_of
from jade_perch.core.evening.reasons import GAIN_SAID, GAIN_WORDS, GainName
from jade_perch.core.fields import Frozen
from jade_perch.core.sky.brightness import mpsas_of_luminance
from jade_perch.core.sky.ephemeris import BODIES, INDEX
from jade_perch.core.sky.moon import LOW_LIGHT_DEG, feature_light_deg, make_face
from jade_perch.core.sky.night import night_track
from jade_perch.core.sky.seen import NOT_SEEN, PARTS, Part, Word, see, word_of
from jade_perch.core.sky.sources import sources_of
from jade_perch.core.sky.targets import Target
from jade_perch.core.sky.visibility import FAINTEST_CD_M2, TOO_DARK
from jade_perch.core.sums import Sum

PART_WORDS: dict[Part, str] = {
    "whole": "the whole of it as an even patch",
    "half": "the half-light part, typical",
    "core": "its brighter middle, a tenth across",
    "stars": "its third star",
    "point": "a point of light",
    "pair": "the fainter star, and the two apart",
}
DEEP_SHADOW = "It lies in the Moon's night now."
FAR_SIDE = "It is turned away from us now."
FEW_LIMITS = 4.0  # a feature not so many times wider than what is split is a dot; our choice
EYE_SPLITS_ARCSEC = 120.0  # what the eye alone tells apart on the Moon; our estimate


class RungWord(Frozen):
    """One rung's word for a target."""

    key: str
    label: str
    magnification: float
    word: Word
    margin: float
    is_named: bool


class Help(Frozen):
    """One change and what it would add to the margin; the word it would give."""

    name: GainName
    title: str
    adds: float
    word: Word


class Closer(Frozen):
    """A target told whole; ``help_words`` says what would help most, or that nothing is missing."""

    prospect: Prospect
    rungs: list[RungWord]
    helps: list[Help]
    help_words: str
    light_words: str
    sum: Sum | None


def look_closer(case: Case, key: str) -> Closer:
    """Return one target of the catalogue told whole.

    What lies on the Moon is told as the Moon, with the Sun's height over it.  Raises
    ``OutOfRange`` for a key that nothing has.

    Source: rules.md#seen.
    """
    catalogue = case.catalogue
    target = catalogue.get(key)
    row = catalogue.row_of("moon" if target.kind == "Moon feature" else target.key) or 0
    judged = judge(catalogue, case.sky, np.array([row]), case.glasses, case.viewer.field_factor)
    prospect = prospect_of(case, judged, row)
    light_words = ""
    if target.kind == "Moon feature":
        prospect, light_words = _on_the_moon(case, target, prospect)
    helps = [] if target.body else _helps(case, judged)
    return Closer(
        prospect=prospect,
        rungs=_rungs(case, judged, prospect),
        helps=helps,
        help_words=_help_words(helps, prospect),
        light_words=light_words,
        sum=None if target.body or not judged.rows.size else _sum(case, judged),
    )


def _rungs(case: Case, judged: Judged, prospect: Prospect) -> list[RungWord]:
    if not judged.rows.size or not case.rungs:
        return []
    entry = judged.entry
    seen = see(
        sources_of(case.catalogue, judged.rows),
        case.glasses,
        case.sky.sky_cd_m2[entry],
        case.sky.dimmed_mag[entry],
        case.viewer.field_factor,
    )
    return [
        RungWord(
            key=rung.key,
            label=rung.label,
            magnification=rung.magnification,
            word=word_of(float(margin)),
            margin=float(margin),
            is_named=rung.key == prospect.rung_key,
        )
        for rung, margin in zip(case.rungs, seen.margin[0], strict=True)
    ]


def _helps(case: Case, judged: Judged) -> list[Help]:
    if not judged.rows.size:
        return []
    gained = gains_of(
        gains(case.catalogue, case.sky, judged, case.glasses, case.viewer.field_factor), 0
    )
    margin = float(judged.margin[0])
    found = [
        Help(name=name, title=words, adds=gained[name], word=word_of(margin + gained[name]))
        for name, words in GAIN_WORDS.items()
        if isfinite(gained[name])
        and gained[name] >= GAIN_SAID
        and word_of(margin + gained[name]) != word_of(margin)
    ]
    return sorted(found, key=lambda one: -one.adds)


def _help_words(helps: Sequence[Help], prospect: Prospect) -> str:
    if prospect.target.body or prospect.best_utc is None or not prospect.rung_key:
        return ""
    if not helps:
        return "No other glass or place would show it much better."
    best = helps[0]
    return f"{best.title[:1].upper()}{best.title[1:]} would help most: {best.word}."


def _on_the_moon(case: Case, target: Target, moon: Prospect) -> tuple[Prospect, str]:
    """Return a feature of the Moon as a prospect, and how the Sun stands over it.

    It shows while the Moon does, where the Sun is up over it and the aperture splits it.
    """
    at_utc = moon.best_utc or case.tonight.at_utc
    track = night_track(case.site, case.night.date)
    face = make_face(case.catalogue, track, at_utc)
    light = feature_light_deg(face, target)
    moon_km = 2 * BODIES[INDEX["moon"]].radius_km
    across = (target.across_km or 0.0) / moon_km * face.diameter_arcmin * 60
    word, words = _light_word(light, across / _splits_arcsec(case, moon))
    word = NOT_SEEN if moon.when == "not tonight" else word
    look = look_of(case, target, word, moon.rung_key)
    update = {"target": target, "word": word, "expected": expected(look), "reason": words}
    return moon.model_copy(update=update), words


def _light_word(light_deg: float | None, across_limits: float) -> tuple[Word, str]:
    """Return the word for a feature under a Sun so high, so many times wider than what is split."""
    if light_deg is None:
        return NOT_SEEN, FAR_SIDE
    if light_deg < 0:
        return NOT_SEEN, DEEP_SHADOW
    low = light_deg <= LOW_LIGHT_DEG
    said = "low light, at its best." if low else "high light, flat and pale."
    words = f"The Sun stands {light_deg:.0f}° over it: {said}"
    if across_limits < 1:
        return NOT_SEEN, f"{words} It is finer than this aperture splits."
    if across_limits < FEW_LIMITS:
        return "with care" if low else "at the limit", words
    return "easy" if low else "clear", words


def _splits_arcsec(case: Case, moon: Prospect) -> float:
    rung = next((one for one in case.rungs if one.key == moon.rung_key), None)
    return EYE_SPLITS_ARCSEC if rung is None else rung.dawes_arcsec


def _sum(case: Case, judged: Judged) -> Sum:
    """Return the margin opened: the part that counts, its light, the sky behind it, the glass."""
    entry, margin = int(judged.entry[0]), float(judged.margin[0])
    sky_mpsas = mpsas_of_luminance(float(case.sky.sky_cd_m2[entry]))
    own_mpsas = mpsas_of_luminance(float(case.sky.moonless_cd_m2[entry]))
    rung = case.rungs[int(judged.rung[0])].label if case.rungs else "the eye alone"
    part = PARTS[int(judged.part[0])]
    behind = case.sky.sky_cd_m2[entry] * case.glasses.relative_brightness[int(judged.rung[0])]
    clamped = f" {TOO_DARK}" if behind < FAINTEST_CD_M2 else ""
    moon = f", {own_mpsas:.1f} without the Moon" if own_mpsas - sky_mpsas >= 0.1 else ""
    return Sum(
        title="Will it be seen",
        formula="log10( contrast ÷ ( f · threshold ) ), for a star 0.4 · ( limit - magnitude )",
        worked=f"{PART_WORDS[part]}, through {rung}; "
        f"sky behind it {sky_mpsas:.1f} mag/arcsec²{moon}; "
        f"{float(case.sky.dimmed_mag[entry]):.2f} mag more air than overhead; "
        f"f = {case.viewer.field_factor:g}",
        result=f"{margin:+.2f}: {word_of(margin)}",
        source="Crumey 2014, MNRAS 442:2600; Krisciunas and Schaefer 1991 for the Moon",
        rule="seen",
        sureness="estimate",
        note="At its best moment tonight. Half a magnitude either way; the words are set by "
        f"well-known experiences.{clamped}",
    )
