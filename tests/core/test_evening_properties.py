"""What must hold of any list, any disc and any record, wherever and whenever."""

import math
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.evening.tonight import LOW_DEG, make_tonight
from jade_perch.core.evening.view import Through, make_disc
from jade_perch.core.kit import (
    Diagonal,
    Eyepiece,
    Finder,
    LightFilter,
    Mount,
    Observer,
    Telescope,
    Upkeep,
)
from jade_perch.core.moments import Now
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.records import (
    check_together,
    compare,
    read_record,
    record_fields,
    write_records,
)
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.night import evening_date, make_night

LATE = datetime(2050, 1, 1, tzinfo=UTC)
TUBE = Telescope(id=1, name="T", aperture_mm=110, focal_length_mm=800, design="refractor")
GLASS = [
    Eyepiece(id=n, name=f"E{n}", focal_length_mm=mm, apparent_field_deg=58)
    for n, mm in enumerate((32, 20, 12, 7, 4), 1)
]
LADDER = build_ladder(TUBE, GLASS, [], make_viewer(None, None, 4))
ORDER = {"now": 0, "later": 1, "not tonight": 2}
moments = st.datetimes(datetime(2000, 1, 1), datetime(2050, 1, 1)).map(
    lambda moment: moment.replace(tzinfo=UTC, microsecond=0)
)
places = st.builds(
    Site,
    name=st.just("S"),
    latitude_deg=st.floats(-89, 89),
    longitude_deg=st.floats(-180, 180),
    zone=st.just("UTC"),
)


@settings(max_examples=40)
@given(moments, places, st.sampled_from(["detail", "comfort", "steady"]))
def test_any_list_is_in_order_and_promises_only_what_stands_up(now, site, school):
    night = make_night(site, evening_date(site, now))
    tonight = make_tonight(catalogue().bodies_only(), site, night, Now(now), LADDER, school)
    assert night.start_utc <= tonight.at_utc <= night.end_utc
    assert [ORDER[t.when] for t in tonight.sights] == sorted(ORDER[t.when] for t in tonight.sights)
    assert len({t.target.body for t in tonight.sights}) == len(tonight.sights) == 8
    for target in tonight.sights:
        assert (target.why != "") == (target.when == "not tonight")
        assert (target.best_from_utc is None) == (target.when == "not tonight")
        assert target.refused == (tonight.sun.is_up and target.from_sun_deg < SUN_KEEP_AWAY_DEG)
        if target.when == "now":
            assert target.altitude_deg >= LOW_DEG - 0.1 and not target.refused
        if target.best_from_utc is not None:
            assert tonight.at_utc <= target.best_from_utc <= target.best_until_utc
            assert target.best_until_utc <= night.end_utc
        assert target.glass is not None
        assert target.glass.top.magnification >= target.glass.start_magnification
        top = next(rung for rung in LADDER.rungs if rung.key == target.glass.top.key)
        assert target.glass.top.fraction_of_field == pytest.approx(
            target.diameter_arcsec / 3600 / top.true_field_deg, rel=1e-9
        )


@settings(max_examples=40)
@given(moments, places, st.sampled_from(catalogue().keys), st.data())
def test_any_disc_holds_what_is_in_the_field_and_nothing_else(now, site, target, data):
    rung = data.draw(st.sampled_from(LADDER.rungs))
    diagonal = data.draw(st.sampled_from([None, Diagonal(id=1, name="D", kind="mirror")]))
    things = catalogue()
    through = Through(TUBE, diagonal, rung)
    found = make_disc(through, things.get(target), things, site, now)
    for star in found.stars:
        assert math.hypot(star.x, star.y) <= 1.01 and star.mag <= 12
    for thing in found.objects:
        assert math.hypot(thing.x, thing.y) <= 1.01 + thing.major and thing.minor <= thing.major
    for body in found.bodies:
        assert body.body != "sun" and 0 <= body.lit <= 1 and body.radius > 0
    assert sum(thing.is_target for thing in found.objects) <= 1
    assert found.time_to_leave_s > 0
    # west is a quarter turn from north, one way or the other as mirrors are counted
    turn = (found.west_deg - found.north_deg + 180) % 360 - 180
    near_a_pole = abs(found.declination_deg) > 88
    assert near_a_pole or abs(turn) == pytest.approx(90, abs=1)
    assert near_a_pole or (turn > 0) == (diagonal is not None)
    again = make_disc(through, things.get(target), things, site, now + timedelta(0))
    assert again == found


names = st.text(
    alphabet=st.characters(blacklist_categories=["Cs", "Cc"]), min_size=1, max_size=30
).filter(lambda text: text.strip() == text and text)
pieces = st.one_of(
    st.builds(Mount, name=names, kind=st.sampled_from(["rocker", "equatorial"])),
    st.builds(Diagonal, name=names, light_path_mm=st.floats(20, 250)),
    st.builds(LightFilter, name=names, note=st.text("abc ,;\"'\n", max_size=20).map(str.strip)),
    st.builds(Observer, name=names, age_years=st.none() | st.integers(4, 110)),
    st.builds(
        Finder,
        name=names,
        magnification=st.floats(1, 30),
        field_deg=st.none() | st.floats(0.5, 60),
        telescope_id=st.sampled_from([None, 7]),
    ),
)
tube = TUBE.model_copy(update={"id": 7, "name": "The tube"})


@given(st.lists(pieces, max_size=6, unique_by=lambda one: (type(one), one.name.casefold())))
def test_any_kit_is_read_back_as_the_same(items):
    kept = [tube, *(one.model_copy(update={"id": n}) for n, one in enumerate(items, 10))]
    kept.append(Upkeep(id=99, item_kind="telescope", item_id=7, task="cleaning"))
    written = write_records(kept)
    for record in written:
        assert set(record) - {"item"} == set(record_fields(record["item"]))
    read = check_together([read_record(n, one) for n, one in enumerate(written)], [], LATE)
    assert [one.problems for one in read] == [[]] * len(kept)
    report = compare(read, kept)
    assert (report.same, report.new, report.changed) == (len(kept), 0, 0)


def test_a_record_that_points_at_nothing_is_refused_where_it_stands():
    finder = Finder(id=1, name="F", telescope_id=7)
    (record,) = write_records([tube, finder])[1:]
    (alone,) = check_together([read_record(3, record)], [], LATE)
    assert alone.place == 3 and alone.problems[0].field == "telescope_name"
    (beside,) = check_together([read_record(3, record)], [tube], LATE)
    assert beside.problems == []
