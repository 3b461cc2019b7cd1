"""The sums behind the figures of a rung, with this kit's values."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from jade_perch.core.constants import (
    BARREL_FIELD_STOP_MM,
    DAWES_ARCSEC_MM,
    RAYLEIGH_ARCSEC_MM,
)
from jade_perch.core.kit import Diagonal, Eyepiece
from jade_perch.core.optics import powers
from jade_perch.core.optics.combinations import (
    USUAL_APPARENT_DEG,
    USUAL_APPARENT_OFF,
    Combination,
)
from jade_perch.core.optics.rungs import (
    DAY_PUPIL_MM,
    LEAST_LIGHT,
    SHADOW_SHARE,
    Rung,
    rungs_of,
)
from jade_perch.core.optics.table import UNKNOWN_BARLOW_MM, compute
from jade_perch.core.optics.viewer import Viewer
from jade_perch.core.sky.brightness import luminance_cd_m2
from jade_perch.core.sky.visibility import (
    clamped_background_cd_m2,
    light_left_fraction,
    point_threshold,
)
from jade_perch.core.sums import OWN_RULE, Sum, Sureness

Figure = Literal[
    "magnification",
    "true_field",
    "exit_pupil",
    "focal_ratio",
    "drift",
    "nudge",
    "working_aperture",
    "brightness",
    "faintest",
    "dawes",
    "rayleigh",
    "eye_relief",
    "refocus",
    "shadow",
]


@dataclass(frozen=True)
class _Opened:
    """Everything a sum may need, gathered once; ``through`` and ``obstruction`` are shares."""

    one: Combination
    rung: Rung
    diagonal: Diagonal | None
    viewer: Viewer
    factor: float
    through: float
    obstruction: float

    @property
    def amplified(self) -> str:
        """The amplified focal length as it is worked out."""
        return f"{self.factor:.4g} × {self.one.telescope.focal_length_mm:g} mm"

    @property
    def sureness(self) -> Sureness:
        """Exact, unless an amplifier's factor is part of it."""
        return "about" if self.rung.magnification_off_percent else "exact"


def rung_sum(figure: Figure, one: Combination, diagonal: Diagonal | None, viewer: Viewer) -> Sum:
    """Return the sum behind one figure of one combination, with its own numbers filled in.

    Source: rules.md#power.
    """
    diagonals = {one.telescope.diagonal_id: diagonal}
    figures = compute([one], diagonals)
    (rung,) = rungs_of([one], figures, viewer)
    factor, through, obstruction = (
        float(column[0])
        for column in (figures.amplification, figures.transmission, figures.obstruction)
    )
    opened = _Opened(one, rung, diagonal, viewer, factor, through, obstruction)
    return _SUMS[figure](opened)


def _off(case: _Opened) -> str:
    """Return how far the power may be off and why; empty when it is exact."""
    if not case.one.amplifiers:
        return ""
    note = f"May be off by about {case.rung.magnification_off_percent:.0f} %: "
    note += "the factor on a Barlow holds only at its nominal distance."
    if case.rung.placement == "ahead" and case.diagonal is not None:
        first = case.one.amplifiers[0]
        own = first.focal_length_mm or UNKNOWN_BARLOW_MM
        known = "" if first.focal_length_mm else " (assumed)"
        note += (
            f" Ahead of the diagonal it gains {case.diagonal.light_path_mm:g} mm of light path "
            f"÷ {own:g} mm{known} = {case.diagonal.light_path_mm / own:.2f}."
        )
    return note


def _magnification(case: _Opened) -> Sum:
    return Sum(
        title="Power",
        formula="amplification × telescope focal length ÷ eyepiece focal length",
        worked=f"{case.amplified} ÷ {case.one.setting.focal_length_mm:.4g} mm",
        result=f"{case.rung.magnification:.1f}×",
        source="Sidgwick, Amateur Astronomer's Handbook: magnification",
        rule="power",
        sureness=case.sureness,
        note=_off(case),
    )


def _true_field(case: _Opened) -> Sum:
    eyepiece, rung = case.one.setting.eyepiece, case.rung
    if not rung.field_is_about:
        return Sum(
            title="True field",
            formula="2 · atan( field stop ÷ (2 · amplification · focal length) )",
            worked=f"2 · atan( {eyepiece.field_stop_mm:g} mm ÷ (2 · {case.amplified}) )",
            result=f"{rung.true_field_deg:.2f}°",
            source="Geometry of the field stop",
            rule="field",
            sureness=case.sureness,
            note=_off(case),
        )
    apparent_deg = case.one.setting.apparent_field_deg
    plain_deg = apparent_deg / rung.magnification
    stop_mm = BARREL_FIELD_STOP_MM[eyepiece.barrel_in]
    capped = rung.true_field_deg < plain_deg - 1e-9
    note = f"May be off by about {rung.field_off_percent:.0f} %. " + (
        f"The {eyepiece.barrel_in} in barrel cuts the field the label would give."
        if capped
        else f"{_how_known(eyepiece)} Time a star across the field to measure it."
    )
    return Sum(
        title="True field",
        formula="2 · atan( barrel opening ÷ (2 · amplification · focal length) )"
        if capped
        else "apparent field ÷ power",
        worked=f"2 · atan( {stop_mm:g} mm ÷ (2 · {case.amplified}) )"
        if capped
        else f"{apparent_deg:.3g}° ÷ {rung.magnification:.2f}",
        result=f"about {rung.true_field_deg:.2f}°",
        source="Sidgwick: field of view",
        rule="field",
        sureness="about",
        note=note,
    )


def _how_known(eyepiece: Eyepiece) -> str:
    if eyepiece.apparent_field_deg is None:
        low, high = (USUAL_APPARENT_DEG * (1 + way * USUAL_APPARENT_OFF) for way in (-1, 1))
        return f"Its apparent field is not known; a plain one shows {low:.0f} to {high:.0f}°."
    return "The field stop is not known."


def _exit_pupil(case: _Opened) -> Sum:
    return Sum(
        title="Exit pupil",
        formula="aperture ÷ power",
        worked=f"{case.rung.aperture_mm:g} mm ÷ {case.rung.magnification:.2f}",
        result=f"{case.rung.exit_pupil_mm:.2f} mm",
        source="Sidgwick: exit pupil",
        rule="exit-pupil",
        sureness=case.sureness,
        note=f"Your eye's own pupil in the dark: {case.viewer.pupil.words}.",
    )


def _focal_ratio(case: _Opened) -> Sum:
    return Sum(
        title="Effective focal ratio",
        formula="amplification × focal length ÷ aperture",
        worked=f"{case.amplified} ÷ {case.rung.aperture_mm:g} mm",
        result=f"f/{case.rung.focal_ratio:.1f}",
        source="Definition",
        rule="power",
        sureness=case.sureness,
        note=_off(case),
    )


def minutes_seconds(elapsed_s: float) -> str:
    """Return a time in seconds as ``M:SS min``.  Source: rules.md#words."""
    minutes, rest = divmod(round(elapsed_s), 60)
    return f"{minutes}:{rest:02d} min"


def _time_sum(case: _Opened, title: str, share: float, seconds: float | None) -> Sum:
    rate = case.viewer.rate_arcsec_per_s
    field_arcsec = case.rung.true_field_deg * 3600
    declination = case.viewer.declination_deg
    times = "" if share == 1 else f"{share:g} × "
    return Sum(
        title=title,
        formula=f"{times}true field ÷ (speed on the equator · cos declination)",
        worked=f"{times}{field_arcsec:.0f}″ ÷ ({rate:.3f} ″/s · cos {declination:g}°)",
        result="never" if seconds is None else minutes_seconds(seconds),
        source="Meeus, Astronomical Algorithms, 2nd ed., ch. 12: sidereal rate",
        rule="drift",
        sureness="about" if case.rung.field_off_percent else "exact",
        note="No drive running. The nearer the pole, the longer a star stays."
        if seconds is not None
        else "So near the pole its circle around it is smaller than the field: it never leaves.",
    )


def _drift(case: _Opened) -> Sum:
    return _time_sum(case, "Edge to edge", 1.0, case.rung.drift_s)


def _nudge(case: _Opened) -> Sum:
    return _time_sum(case, "Nudge every", 0.35, case.rung.nudge_s)


def _working_aperture(case: _Opened) -> Sum:
    pupil_mm = case.viewer.pupil.pupil_mm
    return Sum(
        title="Working aperture",
        formula="the smaller of aperture and power × eye pupil",
        worked=f"min( {case.rung.aperture_mm:g} mm, {case.rung.magnification:.2f} × "
        f"{pupil_mm:.2f} mm )",
        result=f"{case.rung.working_aperture_mm:.0f} mm",
        source=OWN_RULE,
        rule="exit-pupil",
        sureness="exact" if case.viewer.pupil.measured else "about",
        note=f"Eye pupil {case.viewer.pupil.words}.",
    )


def _brightness(case: _Opened) -> Sum:
    pupil_mm, beam_mm = case.viewer.pupil.pupil_mm, case.rung.exit_pupil_mm
    formula = "transmission × (exit pupil ÷ eye pupil)², never above the transmission"
    worked = f"{case.through:.4f} × ({min(beam_mm, pupil_mm):.3f} ÷ {pupil_mm:.3f} mm)²"
    if beam_mm > pupil_mm and case.obstruction:
        clear = case.through / (1 - case.obstruction**2)
        formula = "transmission of the glass × (eye pupil² − (obstruction × exit pupil)²) ÷ "
        formula += "eye pupil², never below nothing"
        worked = f"{clear:.4f} × ({pupil_mm:.3f}² − ({case.obstruction:.3f} × {beam_mm:.3f})²) ÷ "
        worked += f"{pupil_mm:.3f}²"
    given = case.one.telescope.transmission_percent is not None
    return Sum(
        title="Brightness of a surface",
        formula=formula,
        worked=worked,
        result=f"{case.rung.relative_brightness:.0%} of the naked eye's view",
        source="Transmissions estimated by design" if not given else "Transmission as entered",
        rule="brightness",
        sureness="about" if given and case.viewer.pupil.measured else "estimate",
        note="Sky and nebula dim together: contrast stays, but the eye sees faint things worse.",
    )


def _faintest(case: _Opened) -> Sum:
    measured = "measured" if case.viewer.sky_is_measured else "from the class of the place"
    pupil_mm, rung = case.viewer.pupil.pupil_mm, case.rung
    seen_cd_m2 = luminance_cd_m2(case.viewer.sky_mpsas) * rung.relative_brightness
    background = float(clamped_background_cd_m2(seen_cd_m2)[0])
    left = light_left_fraction(case.obstruction, rung.exit_pupil_mm, pupil_mm)
    through = max(LEAST_LIGHT, case.through * float(left))
    gain = through * (rung.working_aperture_mm / pupil_mm) ** 2
    return Sum(
        title="Faintest star",
        formula="-13.98 - 2.5 · log10( f · R · B ÷ gain ), R = (6.505e-4 · B^-0.25 - 8.461e-4)²",
        worked=f"-13.98 - 2.5 · log10( {case.viewer.field_factor:g} · "
        f"{float(point_threshold(background)):.4g} · {background:.4g} ÷ {gain:.5g} )",
        result=f"about magnitude {case.rung.faintest_mag:.1f}",
        source="Crumey 2014, MNRAS 442:2600",
        rule="threshold",
        sureness="estimate",
        note=f"Sky {case.viewer.sky_mpsas:.1f} mag/arcsec² ({measured}); gain = light let through "
        f"{through:.3f} · (working aperture {rung.working_aperture_mm:.1f} mm ÷ {pupil_mm:.2f} "
        "mm)². Overhead, no Moon, held with averted vision; half a magnitude either way.",
    )


def _resolution(case: _Opened, title: str, constant: float, source: str, note: str) -> Sum:
    working_mm = case.rung.working_aperture_mm
    return Sum(
        title=title,
        formula=f"{constant:g}″ mm ÷ working aperture",
        worked=f"{constant:g} ÷ {working_mm:.1f} mm",
        result=f"{constant / working_mm:.2f}″",
        source=source,
        rule="resolution",
        sureness="about",
        note=note,
    )


def _dawes(case: _Opened) -> Sum:
    note = (
        "For two equal stars of the sixth magnitude; unequal pairs need more. A pair is "
        f"comfortable from {240 / case.rung.magnification:.1f}″ at this power."
    )
    return _resolution(case, "Dawes limit", DAWES_ARCSEC_MM, "Sidgwick: resolution", note)


def _rayleigh(case: _Opened) -> Sum:
    note = "The dark ring of one star on the centre of the other, at 550 nm."
    return _resolution(case, "Rayleigh limit", RAYLEIGH_ARCSEC_MM, "Sidgwick: resolution", note)


def _eye_relief(case: _Opened) -> Sum:
    alone, here = case.rung.eye_relief_alone_mm, case.rung.eye_relief_mm
    if alone is None or here is None:
        return Sum(
            title="Eye relief",
            formula="as the maker states it",
            worked="not entered for this eyepiece",
            result="unknown",
            source="Your kit",
            rule="barlow",
            sureness="exact",
            note="Under 15 mm is uncomfortable with glasses.",
        )
    return Sum(
        title="Eye relief",
        formula="alone + f² ÷ (distance of the aperture as the eyepiece sees it) - f² ÷ F",
        worked=f"{alone:g} mm {here - alone:+.1f} mm",
        result=f"{here:.0f} mm",
        source="Newton's lens equation, the aperture seen through the amplifier",
        rule="barlow",
        sureness="about" if case.one.amplifiers else "exact",
        note="Under 15 mm is uncomfortable with glasses. " + case.rung.glasses,
    )


def _refocus(case: _Opened) -> Sum:
    observer = case.viewer.observer
    diopters = None if observer is None else observer.sight_diopters
    if diopters is None or case.rung.refocus_mm is None:
        worked, result = "no diopters entered for the observer", "unknown"
    else:
        focal_mm = case.one.setting.focal_length_mm
        behind = f" ÷ {case.factor:.4g}²" if case.one.amplifiers else ""
        worked = f"({focal_mm:.4g} mm)² × {diopters:g} dpt ÷ 1000{behind}"
        shift = float(powers.refocus_shift_mm(focal_mm, diopters, case.factor))
        way = "inwards" if shift < 0 else "outwards"
        result = f"{abs(shift):.2f} mm {way}"
    return Sum(
        title="Refocus without glasses",
        formula="eyepiece focal length² × diopters ÷ 1000, at the focuser ÷ amplification²",
        worked=worked,
        result=result,
        source=OWN_RULE,
        rule="glasses",
        sureness="about",
        note="From the focus of an eye that needs no glasses.",
    )


def _shadow(case: _Opened) -> Sum:
    eye_mm, beam_mm = case.viewer.pupil.pupil_mm, case.rung.exit_pupil_mm
    words = {"none": "not seen", "by_day": "seen by day", "by_night": "seen"}[case.rung.shadow]
    return Sum(
        title="The secondary's shadow",
        formula=f"obstruction × exit pupil, seen from {SHADOW_SHARE:g} of the eye's pupil on",
        worked=f"{case.obstruction:.3f} × {beam_mm:.2f} mm = {case.obstruction * beam_mm:.2f} mm; "
        f"{SHADOW_SHARE:g} × {eye_mm:.1f} mm = {SHADOW_SHARE * eye_mm:.2f} mm, by day "
        f"{SHADOW_SHARE:g} × {DAY_PUPIL_MM:g} mm = {SHADOW_SHARE * DAY_PUPIL_MM:.2f} mm",
        result=words,
        source=OWN_RULE,
        rule="exit-pupil",
        sureness="estimate",
        note="" if case.obstruction else "Nothing stands in front of this aperture.",
    )


_SUMS: dict[Figure, Callable[[_Opened], Sum]] = {
    "magnification": _magnification,
    "true_field": _true_field,
    "exit_pupil": _exit_pupil,
    "focal_ratio": _focal_ratio,
    "drift": _drift,
    "nudge": _nudge,
    "working_aperture": _working_aperture,
    "brightness": _brightness,
    "faintest": _faintest,
    "dawes": _dawes,
    "rayleigh": _rayleigh,
    "eye_relief": _eye_relief,
    "refocus": _refocus,
    "shadow": _shadow,
}
