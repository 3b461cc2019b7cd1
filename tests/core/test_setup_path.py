"""The set-up path: what each mount needs, and what spoils what."""

from datetime import UTC, datetime

import pytest

from jade_perch.core.evening.setup import (
    TITLES,
    SetupReading,
    budget_readings,
    make_steps,
    mishaps_of,
    resting_on,
    spoiled,
)
from jade_perch.core.kit import Mount

AT = datetime(2027, 2, 13, 16, tzinfo=UTC)


def reading(step, minute=0, **figures):
    return SetupReading(
        evening_id=1, telescope_id=1, step=step,
        recorded_at_utc=AT.replace(minute=minute), words="w", is_good=True, figures=figures,
        inputs={},
    )  # fmt: skip


@pytest.mark.parametrize(
    ("kind", "left_out"),
    [
        ("rocker", {"north", "power"}),
        ("altaz", {"north", "power"}),
        ("altaz_slow_motion", {"north", "power"}),
        ("yoke", {"north", "power"}),
        ("ball", {"north", "power"}),
        ("pan_head", {"north", "power"}),
        ("altaz_motor", set()),
        ("equatorial", {"power"}),
    ],
)
def test_only_the_steps_a_mount_needs_each_with_why(kind, left_out):
    steps = make_steps(Mount(name="M", kind=kind), [])
    assert [one.name for one in steps] == [one for one in TITLES if one not in left_out]
    order = [one.name for one in steps]
    assert order.index("assemble") == 0 and order.index("focus") < order.index("finder")
    assert all(one.why for one in steps)


def test_what_rests_on_the_level_and_what_a_kick_spoils():
    assert resting_on("level") == ["north", "power"]
    assert resting_on("stand") == ["level", "north", "power"]
    motor = Mount(name="M", kind="altaz_motor")
    kick = next(one for one in mishaps_of(motor) if one.mishap == "base_moved")
    assert kick.spoils == ["assemble", "stand", "level", "north", "power"]
    rocker = {one.mishap: one.spoils for one in mishaps_of(Mount(name="R", kind="rocker"))}
    assert rocker["power_lost"] == ["assemble"]  # of a sight's battery
    kept = [reading("level"), reading("finder"), reading("north", 5)]
    gone = spoiled(kept, kick.spoils, AT, kick.words)
    assert [one.step for one in gone] == ["level", "north"]
    assert spoiled(gone, kick.spoils, AT, "again") == []  # spoiled once is spoiled


def test_the_latest_reading_counts_and_a_spoiled_one_is_not_believed():
    figures = {"low_azimuth_deg": 80.0, "tilt_doubt_arcmin": 2.0}
    old, new = (
        reading("level", minute, tilt_arcmin=tilt, **figures)
        for minute, tilt in ((0, 40.0), (9, 5.0))
    )
    steps = {one.name: one for one in make_steps(Mount(name="M"), [new, old])}
    assert steps["level"].recorded_at_utc == new.recorded_at_utc
    figures["tilt_arcmin"] = 5.0
    known = budget_readings([reading("level", **figures)])
    assert (
        known["level"].value_deg == pytest.approx(5 / 60, abs=1e-9)
        and known["level"].toward_deg == 80
    )
    assert not known["north"].is_recorded and known["north"].doubt_deg >= 5
    lost = reading("level", **figures).model_copy(update={"spoiled_at_utc": AT})
    assert not budget_readings([lost])["level"].is_recorded
