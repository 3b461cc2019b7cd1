"""The bench as a whole: what the path of set-up steps is drawn from."""

import datetime as dt
from collections.abc import Sequence

from jade_perch.core.bench.assemble import (
    AssembleAdvice,
    AssembleInput,
    advise_assembly,
    parts_of,
)
from jade_perch.core.bench.budget import Budget, make_budget
from jade_perch.core.bench.cooling import USUAL_ROOM_C, Forecast
from jade_perch.core.bench.landmark import FAR, HEIGHTS
from jade_perch.core.bench.sunring import SunRing, sun_ring
from jade_perch.core.evening.desk import NO_FIELD_DEG, ReadyDesk
from jade_perch.core.evening.interest import looking_moment, paths_of, places_of_interest
from jade_perch.core.evening.rejudge import steps_of
from jade_perch.core.evening.setup import (
    MishapChoice,
    SetupReading,
    Step,
    budget_readings,
    mishaps_of,
)
from jade_perch.core.fields import Choice, Frozen, choices
from jade_perch.core.kit import Diagonal, Eyepiece, Finder, Mount, Observer, Telescope
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.targets import Placed

MOST_TARGETS = 10  # bars that fit the bench at one glance


class Bench(Frozen):
    """Everything the bench needs to draw its path; ``mount_is_assumed`` where none is named.

    ``forecast`` is the weather hours', and says whose word it is.  ``room_c`` is taken for where
    the tube stood while nobody has said.  ``level_by_eye`` where one look is enough; ``heights``
    and ``distances`` are the words for a landmark's.
    """

    evening_date: dt.date
    now_utc: dt.datetime
    site: Site
    telescope: Telescope
    mount: Mount
    mount_is_assumed: bool
    diagonal: Diagonal | None
    finders: list[Finder]
    eyepieces: list[Eyepiece]
    people: list[Observer]
    steps: list[Step]
    assembly: AssembleAdvice
    mishaps: list[MishapChoice]
    ring: SunRing
    forecast: Forecast
    room_c: float
    vial_sensitivity_arcmin: float | None
    level_by_eye: bool
    heights: list[Choice]
    distances: list[Choice]
    highest_altitude_deg: float
    longest_field_deg: float
    longest_eyepiece_id: int | None


def make_bench(
    desk: ReadyDesk,
    readings: Sequence[SetupReading],
    ticked: set[str],
    forecast: Forecast,
    catalogue: Catalogue,
) -> Bench:
    """Return the bench as it stands at the desk's moment; ``ticked`` are the parts put together.

    Source: the kit, what was recorded, and the Sun by JPL DE421.
    """
    rungs = [rung for rung in desk.ladder.rungs if not rung.amplifier_ids]
    longest = max(rungs, key=lambda rung: rung.true_field_deg, default=None)
    fitting = {rung.eyepiece_id for rung in rungs}
    places = _places(desk, catalogue)
    parts = parts_of(desk.telescope, desk.known_mount, desk.diagonal, desk.finders)
    return Bench(
        evening_date=desk.night.date,
        now_utc=desk.moment_utc,
        site=desk.place,
        telescope=desk.telescope,
        mount=desk.known_mount,
        mount_is_assumed=desk.mount is None,
        diagonal=desk.diagonal,
        finders=list(desk.finders),
        eyepieces=[one for one in desk.eyepieces if one.id in fitting],
        people=list(desk.everybody),
        steps=steps_of(desk, readings),
        assembly=advise_assembly(AssembleInput(), parts, ticked),
        mishaps=mishaps_of(desk.known_mount),
        ring=sun_ring(desk.place, desk.now),
        forecast=forecast,
        room_c=USUAL_ROOM_C,
        vial_sensitivity_arcmin=desk.known_mount.vial_sensitivity_arcmin,
        level_by_eye=desk.known_mount.traits.drive == "hand",
        heights=choices({name: one.words for name, one in HEIGHTS.items()}),
        distances=choices({name: one.words for name, one in FAR.items()}),
        highest_altitude_deg=max(round(one.altitude_deg) for one in places),
        longest_field_deg=NO_FIELD_DEG if longest is None else longest.true_field_deg,
        longest_eyepiece_id=None if longest is None else longest.eyepiece_id,
    )


def _places(desk: ReadyDesk, catalogue: Catalogue) -> list[Placed]:
    at = (desk.place, desk.night, desk.moment_utc)
    return places_of_interest(catalogue, *at, MOST_TARGETS)


def budget_of(
    desk: ReadyDesk,
    readings: Sequence[SetupReading],
    catalogue: Catalogue,
    chosen_key: str | None = None,
) -> Budget | None:
    """Return minutes in the field for tonight's targets; None without a rung.

    Source: see ``make_budget``.
    """
    rungs = desk.ladder.rungs
    if not rungs:
        return None
    places = _places(desk, catalogue)
    return make_budget(
        desk.known_mount.traits.drive,
        budget_readings(readings),
        places,
        rungs,
        desk.place.latitude_deg,
        chosen_key,
        paths_of(desk.place, places, looking_moment(desk.night, desk.moment_utc)),
    )
