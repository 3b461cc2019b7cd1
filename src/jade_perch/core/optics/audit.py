"""Are the labels true: printed powers against the sums they would have to follow from."""

from collections.abc import Sequence
from typing import Literal

from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Eyepiece, Telescope

Claim = Literal["eyepiece_power", "largest_power", "amplifier_factor"]
STEADY_PER_MM = 2.0  # largest useful power per mm of aperture; rules.md#labels
CLOSE = 0.05  # a label within five percent counts as rounded, not wrong; our choice


class Audit(Frozen):
    """One printed claim and what it is worth."""

    claim: Claim
    printed: float
    holds: bool
    verdict: str
    exact_sum: str
    mental_sum: str
    would_need: str


def audit_eyepiece_power(
    telescope: Telescope, eyepiece_focal_length_mm: float, printed: float, factor: float = 1.0
) -> Audit:
    """Return whether an eyepiece of some mm gives a printed power in this telescope.

    ``factor`` is that of a Barlow the claim includes, 1 without.  Source: M = A·F/f.
    """
    focal_mm, eye_mm = telescope.focal_length_mm, eyepiece_focal_length_mm
    actual = factor * focal_mm / eye_mm
    holds = abs(printed / actual - 1) <= CLOSE
    times = f"{factor:g} × " if factor != 1 else ""
    if holds:
        verdict = f"True: it gives {actual:.0f}× in {telescope.name}."
    else:
        verdict = f"Not in {telescope.name}: it gives {actual:.0f}×, not {printed:.0f}×."
    needed = (
        "Nothing more."
        if holds
        else f"For {printed:.0f}× it would need {printed * eye_mm / factor:.0f} mm focal length, "
        f"an eyepiece of {factor * focal_mm / printed:.1f} mm, "
        f"or a Barlow of {printed / (focal_mm / eye_mm):.1f}×."
    )
    return Audit(
        claim="eyepiece_power",
        printed=printed,
        holds=holds,
        verdict=verdict + _over_ceiling(telescope, printed if holds else actual),
        exact_sum=f"{times}{focal_mm:g} mm ÷ {eye_mm:g} mm = {actual:.1f}×",
        mental_sum=mental_sum(focal_mm, eye_mm, factor),
        would_need=needed,
    )


def audit_largest_power(telescope: Telescope, printed: float) -> Audit:
    """Return whether a printed largest power can be used: not over twice the aperture in mm.

    Source: rules.md#labels; the most generous of the three schools.
    """
    most = STEADY_PER_MM * telescope.aperture_mm
    holds = printed <= most * (1 + 1e-9)
    verdict = (
        f"It can be used on a steady night: the aperture ends at {most:.0f}×."
        if holds
        else f"The aperture ends at {most:.0f}×; beyond it the view is larger, dimmer, not sharper."
    )
    return Audit(
        claim="largest_power",
        printed=printed,
        holds=holds,
        verdict=verdict,
        exact_sum=f"2 × {telescope.aperture_mm:g} mm = {most:.0f}×",
        mental_sum="Double the aperture in millimetres.",
        would_need="Nothing more."
        if holds
        else f"For {printed:.0f}× it would need {printed / STEADY_PER_MM:.0f} mm of aperture.",
    )


def audit_amplifier(telescope: Telescope, eyepieces: Sequence[Eyepiece], factor: float) -> Audit:
    """Return with how many owned eyepieces a Barlow of a printed factor stays useful.

    Useful means a power not over twice the aperture in mm.  Source: rules.md#labels.
    """
    most = STEADY_PER_MM * telescope.aperture_mm
    gives = {e: factor * telescope.focal_length_mm / e.focal_length_mm for e in eyepieces}
    useful = [e for e, power in gives.items() if power <= most * (1 + 1e-9)]
    names = ", ".join(f"{e.focal_length_mm:g} mm ({gives[e]:.0f}×)" for e in useful)
    shortest_mm = factor * telescope.focal_length_mm / most
    return Audit(
        claim="amplifier_factor",
        printed=factor,
        holds=bool(useful),
        verdict=f"Useful with {len(useful)} of {len(eyepieces)} eyepieces"
        + (f": {names}." if useful else "."),
        exact_sum=f"{factor:g} × {telescope.focal_length_mm:g} mm ÷ (2 × "
        f"{telescope.aperture_mm:g}) = {shortest_mm:.1f} mm is the shortest useful eyepiece",
        mental_sum=f"{factor:g} times the focal ratio, halved: "
        f"{factor:g} × {telescope.focal_ratio:.0f} ÷ 2 is about {shortest_mm:.0f} mm.",
        would_need="Nothing more."
        if useful
        else f"It would need an eyepiece of {shortest_mm:.1f} mm or longer.",
    )


def _over_ceiling(telescope: Telescope, power: float) -> str:
    most = STEADY_PER_MM * telescope.aperture_mm
    return f" That is over the aperture's {most:.0f}×." if power > most * (1 + 1e-9) else ""


def mental_sum(focal_length_mm: float, eyepiece_focal_length_mm: float, factor: float = 1.0) -> str:
    """Return the easy way to the same power: a round count of eyepiece lengths in the tube.

    ``focal_length_mm`` is the tube's own, ``factor`` that of a Barlow in it, 1 without.

    Source: rules.md#labels.
    """
    exact = factor * focal_length_mm / eyepiece_focal_length_mm
    step = 10 if exact >= 50 else 5 if exact >= 20 else 1
    count = max(1, round(exact / step) * step)
    reached_mm = count * eyepiece_focal_length_mm
    made_mm = factor * focal_length_mm
    amplified = f", with the {factor:g}× {made_mm:g}" if factor != 1 else ""
    return (
        f"{count} times {eyepiece_focal_length_mm:g} mm is {reached_mm:g} mm, "
        f"the tube has {focal_length_mm:g}{amplified}: about {count}×."
    )
