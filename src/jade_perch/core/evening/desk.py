"""The desk: where, when, with what and who, resolved once for every station."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import EveningChoice, EveningRow
from jade_perch.core.evening.habits import PowerNote, learned_airs
from jade_perch.core.evening.interest import looking_moment
from jade_perch.core.evening.setup import UNNAMED_MOUNT
from jade_perch.core.kit import (
    Amplifier,
    Diagonal,
    Eyepiece,
    Finder,
    Mount,
    Observer,
    Telescope,
)
from jade_perch.core.moments import ClockKind, Now
from jade_perch.core.optics.ladder import Ladder, Ways, build_ladder
from jade_perch.core.optics.viewer import STARS, Course, Viewer, make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.night import Night
from jade_perch.core.units import Units
from jade_perch.core.weather import NOTHING_TOLD, ToldWeather, hour_of, merged

NO_FIELD_DEG = 1.0  # taken for the longest eyepiece's field while there is none


@dataclass(frozen=True)
class Desk:
    """One evening as every station reads it.

    ``evening`` has no id until something was chosen or recorded for it.  ``people`` are those
    present, ``everybody`` all that are known; ``mount`` None is not named in the kit.  ``told`` is
    the weather of the night's hours as read or typed, nothing simulated; ``power_notes`` the
    newest notes of powers and air.
    """

    moment_utc: datetime
    choice: EveningChoice
    evening: EveningRow
    place: Site | None
    night: Night | None
    telescope: Telescope | None
    mount: Mount | None
    diagonal: Diagonal | None
    finders: tuple[Finder, ...]
    eyepieces: tuple[Eyepiece, ...]
    amplifiers: tuple[Amplifier, ...]
    observer: Observer | None
    everybody: tuple[Observer, ...]
    clock: ClockKind = "real"
    told: ToldWeather = NOTHING_TOLD
    power_notes: tuple[PowerNote, ...] = ()

    @property
    def now(self) -> Now:
        """The moment with the clock that tells it.  Source: rules.md#desk."""
        return Now(self.moment_utc, self.clock)

    @property
    def people(self) -> tuple[Observer, ...]:
        """Those present: the ones named, or everybody known.  Source: rules.md#desk."""
        return self.present(self.choice.people_ids)

    def present(self, people_ids: Sequence[int] | None) -> tuple[Observer, ...]:
        """Return those of everybody who are named, all for None.  Source: rules.md#desk."""
        return tuple(one for one in self.everybody if people_ids is None or one.id in people_ids)

    @property
    def units(self) -> Units:
        """How lengths and temperatures are said.  Source: rules.md#desk."""
        return Units(length=self.choice.length_unit, temperature=self.choice.temperature_unit)

    @property
    def known_mount(self) -> Mount:
        """The mount, or one pushed by hand where the kit names none.  Source: rules.md#desk."""
        return self.mount or UNNAMED_MOUNT

    @property
    def told_steadiness(self) -> int | None:
        """The air's steadiness in the hour looking begins, as read or typed; never simulated.

        Source: rules.md#weather.
        """
        if self.night is None:
            return None
        at = hour_of(looking_moment(self.night, self.moment_utc))
        return merged([at], self.told)[0].steadiness

    @property
    def place_tonight(self) -> Site | None:
        """The place with tonight's sky: the faintest star seen tonight wins over what is known.

        Source: rules.md#sky-brightness.
        """
        faintest = self.choice.faintest_seen_mag
        if self.place is None or faintest is None:
            return self.place
        return self.place.model_copy(update={"sky_mpsas": None, "naked_eye_limit_mag": faintest})

    def viewer(self, course: Course = STARS) -> Viewer:
        """Return who looks tonight, through what air and sky, at what.

        What somebody judged of the air counts before what the weather hours say.  Haze is counted
        once: the faintest star seen has it in it.

        Source: the choices; unknown ones are estimated, see ``make_viewer``.
        """
        steadiness = self.choice.steadiness or self.told_steadiness
        is_told = self.choice.steadiness is None
        is_seen = self.choice.faintest_seen_mag is not None
        return make_viewer(
            self.observer,
            self.place_tonight,
            steadiness,
            course,
            air_is_told=is_told,
            transparency=None if is_seen else self.choice.transparency,
        )

    def ladder_of(
        self,
        telescope: Telescope,
        diagonal: Diagonal | None,
        ways: Ways | None = None,
        course: Course = STARS,
    ) -> Ladder:
        """Return a telescope's ladder with the whole case, amplifiers as chosen.

        Source: see ``build_ladder``.
        """
        with_amplifiers = self.choice.uses_amplifiers(telescope)
        viewer = self.viewer(course)
        learned = learned_airs(self.power_notes, viewer.steadiness).get(telescope.name)
        return build_ladder(
            telescope,
            self.eyepieces,
            self.amplifiers if with_amplifiers else (),
            viewer.model_copy(update={"learned_air": learned}),
            diagonal,
            ways,
            () if with_amplifiers else self.amplifiers,
        )


@dataclass(frozen=True)
class ReadyDesk(Desk):
    """A desk with everything the bench needs: a place, its night, and a telescope."""

    place: Site
    night: Night
    telescope: Telescope

    @property
    def ladder(self) -> Ladder:
        """The ladder of tonight's telescope, kept for the next asker.  Source: rules.md#desk."""
        return self.ladder_of(self.telescope, self.diagonal)

    def require_finder(self, finder: Finder) -> Finder:
        """Return a finder that sits on tonight's telescope; raises ``OutOfRange`` for another's.

        Source: rules.md#desk.
        """
        if finder.id not in [one.id for one in self.finders]:
            names = ", ".join(one.name for one in self.finders) or "none"
            allowed = f"a finder on {self.telescope.name}: {names}"
            raise OutOfRange("finder_id", finder.name, allowed, "Choose one of these.")
        return finder

    @property
    def longest_field_deg(self) -> float:
        """The true field of the longest eyepiece in degrees.  Source: rules.md#desk."""
        return longest_field_of(self.ladder)


def longest_field_of(ladder: Ladder) -> float:
    """Return the true field of a ladder's longest eyepiece in degrees.  Source: rules.md#desk."""
    return max((rung.true_field_deg for rung in ladder.rungs), default=NO_FIELD_DEG)


def require_telescope(desk: Desk) -> Telescope:
    """Return the chosen telescope; raises ``OutOfRange`` without one.  Source: the choices."""
    if desk.telescope is None:
        cure = "Put your first telescope on the bench."
        raise OutOfRange("telescope", "(nothing)", "a telescope", cure)
    return desk.telescope


def require_place(desk: Desk) -> Site:
    """Return the chosen place; raises ``OutOfRange`` without one.  Source: the choices."""
    if desk.place is None:
        raise OutOfRange("place", "(nothing)", "a place", "Choose your place first.")
    return desk.place


def ready(desk: Desk) -> ReadyDesk | None:
    """Return a desk as the bench needs it, or None without a place or telescope.

    Source: the choices.
    """
    if desk.place is None or desk.night is None or desk.telescope is None:
        return None
    values = {name: getattr(desk, name) for name in desk.__dataclass_fields__}
    return ReadyDesk(**values)


def require_ready(desk: Desk) -> ReadyDesk:
    """Return a desk as the bench needs it; raises ``OutOfRange`` without a place or telescope.

    Source: the choices.
    """
    found = ready(desk)
    if found is None:
        cure = "Put a telescope on the bench and choose a place first."
        raise OutOfRange("evening", "(nothing)", "a telescope and a place", cure)
    return found
