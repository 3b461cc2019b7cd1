"""Tonight's air and dark: five plain steps each, the faintest star seen, and eyes in the dark."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Literal

from jade_perch.core.evening.habits import PowerNote, learned_airs
from jade_perch.core.eyepiece.sitting import Sitting
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Observer
from jade_perch.core.moments import clock_time
from jade_perch.core.optics.limits import air_limit, seeing_arcsec
from jade_perch.core.optics.viewer import HAZE_MAG
from jade_perch.core.sky.brightness import mpsas_of_limit
from jade_perch.core.sky.night import Night

ADAPTED_FIRST_MIN, ADAPTED_MIN = 30, 40  # how long the dark takes; rules.md#dark-eyes
EyesWord = Literal["not yet", "adapting", "adapted"]
STEADY_LOOK: dict[int, tuple[str, str]] = {
    1: ("boiling", "A star is a blot that never sharpens; the Moon's edge runs like water."),
    2: ("restless", "A star dances and flares; details come for a blink."),
    3: ("usual", "A star is a small disc that trembles; details come and go."),
    4: ("calm", "A small disc with a broken ring round it; details stay for seconds."),
    5: ("rock steady", "A still disc in a whole, fine ring; details simply stand."),
}
CLEAR_LOOK: dict[int, tuple[str, str]] = {
    1: ("thick haze", "Only the brightest stars; each wears a glow in the field."),
    2: ("haze", "Faint stars of a known figure are gone; the field's ground is grey."),
    3: ("usual", "Known figures are whole down to their fainter stars."),
    4: ("clear", "The field's ground is dark; faint stars stand to its edge."),
    5: ("crystal", "Stars down to the skyline; the dark looks black even low."),
}


class AirStep(Frozen):
    """One of five plain steps: its word, what to look at, and what it does to the ladder."""

    step: int
    word: str
    look: str
    effect: str


class DarkEyes(Frozen):
    """How long somebody's eyes have been in the dark.

    ``since_utc`` None is not dark yet.  ``is_about`` where nobody said so and dusk is taken.
    """

    person_id: int | None
    since_utc: datetime | None
    adapted_from_utc: datetime | None
    word: EyesWord
    words: str
    is_about: bool


def steadiness_steps(notes: Sequence[PowerNote] = (), telescope_name: str = "") -> list[AirStep]:
    """Return the five steps of steadiness with what to look at, and their ceiling on the ladder.

    Where the notes say enough of such air in a telescope, it is theirs.

    Source: rules.md#air; rules.md#learned-air.
    """
    return [
        AirStep(step=step, word=word, look=look, effect=_air_words(notes, telescope_name, step))
        for step, (word, look) in STEADY_LOOK.items()
    ]


def _air_words(notes: Sequence[PowerNote], telescope_name: str, step: int) -> str:
    learned = learned_airs(notes, step).get(telescope_name)
    if learned is None:
        return f"up to about {air_limit(seeing_arcsec(step)):.0f}×"
    return f"up to about {learned.magnification:.0f}×, by {learned.notes} notes"


def transparency_steps() -> list[AirStep]:
    """Return the five steps of transparency with what to look at, and the light each costs.

    Source: rules.md#haze.
    """
    return [
        AirStep(step=step, word=word, look=look, effect=_haze_words(HAZE_MAG[step]))
        for step, (word, look) in CLEAR_LOOK.items()
    ]


def _haze_words(dimmed_mag: float) -> str:
    if dimmed_mag == 0:
        return "as usual"
    return f"{abs(dimmed_mag):.1f} mag {'fainter' if dimmed_mag > 0 else 'brighter'}"


def sky_words(faintest_mag: float) -> str:
    """Return what the faintest star seen overhead says of tonight's sky.

    Source: rules.md#sky-brightness.
    """
    return (
        f"Stars to {faintest_mag:.1f} mag: about {mpsas_of_limit(faintest_mag):.1f} mag/arcsec² "
        "tonight. Plan and ladder read it."
    )


def dark_since(sitting: Sitting, night: Night, person_id: int | None) -> tuple[datetime, bool]:
    """Return since when somebody's eyes may adapt, and whether that is only taken from dusk.

    Not before the end of civil twilight; from then on from the last white light, their own or
    everybody's.

    Source: rules.md#dark-eyes.
    """
    dusk = night.sunset_utc or night.start_utc
    civil = next((one for one in night.lights if one.light == "civil"), None)
    if civil is not None and civil.start_utc >= dusk:
        dusk = civil.end_utc
    own = [one.at_utc for one in sitting.lights if one.person_id in (None, person_id)]
    latest = max(own, default=None)
    if latest is None or latest < dusk:
        return dusk, True
    return latest, False


def dark_eyes(
    sitting: Sitting, night: Night, person: Observer | None, now_utc: datetime, zone: str
) -> DarkEyes:
    """Return how far somebody's eyes are adapted to the dark.

    Source: rules.md#dark-eyes.
    """
    person_id = None if person is None else person.id
    since, is_about = dark_since(sitting, night, person_id)
    if now_utc < since:
        return DarkEyes(
            person_id=person_id,
            since_utc=None,
            adapted_from_utc=None,
            word="not yet",
            words="Still too light for dark eyes.",
            is_about=is_about,
        )
    minutes = (now_utc - since) / timedelta(minutes=1)
    ready = since + timedelta(minutes=ADAPTED_MIN)
    word: EyesWord = "adapted" if minutes >= ADAPTED_FIRST_MIN else "adapting"
    about = "about " if is_about else ""
    left = f"; faint things from {clock_time(since + timedelta(minutes=ADAPTED_FIRST_MIN), zone)}"
    return DarkEyes(
        person_id=person_id,
        since_utc=since,
        adapted_from_utc=ready,
        word=word,
        words=f"Eyes in the dark for {about}{minutes:.0f} min{left * (word == 'adapting')}.",
        is_about=is_about,
    )


def everybodys_eyes(
    sitting: Sitting, night: Night, people: Sequence[Observer], now_utc: datetime, zone: str
) -> list[DarkEyes]:
    """Return how far each person's eyes are adapted.  Source: rules.md#dark-eyes."""
    return [dark_eyes(sitting, night, one, now_utc, zone) for one in people]
