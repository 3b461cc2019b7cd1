"""The journal's rules: searching, bars, lists, logs, what comes next, and what records teach."""

import math
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.habits import (
    LEAST_EVENINGS,
    LEAST_NOTES,
    LEAST_OF_RULE,
    MOST_OF_RULE,
    PowerNote,
    learned_airs,
)
from jade_perch.core.evening.journal import EARLIEST_UTC, Observation, require_noted
from jade_perch.core.eyepiece.sitting import Looked, Sitting
from jade_perch.core.journal.ahead import MOON_UP_DEG, Looker, look_ahead
from jade_perch.core.journal.award import Background, log_cells, make_log, plain_note
from jade_perch.core.journal.evenings import BarMark, make_bar
from jade_perch.core.journal.lessons import (
    LEAST_EACH_WAY,
    LEAST_IN_ROW,
    LEAST_JUDGED,
    Judgement,
    Tried,
    eyes_lesson,
    fields_lesson,
    fitted_factor,
    hours_lesson,
    powers_lesson,
    skies_lesson,
)
from jade_perch.core.journal.lists import (
    GivenList,
    ListEntry,
    Noted,
    progress_of,
    resolved,
    shipped_lists,
)
from jade_perch.core.journal.search import match_of
from jade_perch.core.kit import Eyepiece, Observer, Telescope, Upkeep
from jade_perch.core.optics.drift import TimedDrift
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.limits import air_limit, seeing_arcsec
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import night_shapes
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.ephemeris import sun_and_moon
from jade_perch.core.sky.moon import lights_deg
from jade_perch.core.sky.night import make_night
from jade_perch.core.upkeep import due_tasks

PLACE = Site(
    name="Here", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin",
    dark_sky_class=4,
)  # fmt: skip
EVENING = date(2027, 2, 13)
NOW = datetime(2027, 2, 13, 19, 0, tzinfo=UTC)
TUBE = Telescope(name="Tube", aperture_mm=140, focal_length_mm=760, design="newtonian")
CASE = [Eyepiece(id=n, name=f"E{n}", focal_length_mm=f, apparent_field_deg=60, barrel_in="1.25")
        for n, f in enumerate((25, 13, 7.5, 5), 1)]  # fmt: skip


def looked(*looks):
    return [
        Looked(target_key=key, rung_key=rung, at_utc=NOW + timedelta(minutes=after))
        for key, rung, after in looks
    ]


def looker(place=PLACE, telescope=TUBE):
    viewer = make_viewer(None, place, 4)
    return Looker(place, viewer, build_ladder(telescope, CASE, [], viewer), "comfort")


def test_a_name_typed_in_pieces_asks_for_its_target_too():
    assert match_of("m 42", catalogue()) == '(("m" * AND "42" *) OR target_key : "m42")'
    assert match_of("dust Orion-Nebula!", catalogue()).startswith('(("dust" *)) AND ((')
    assert match_of("?!  '' \"", catalogue()) is None


@given(st.text(max_size=60))
def test_whatever_is_typed_asks_a_question_with_balanced_quotes(text):
    asked = match_of(text, catalogue())
    assert asked is None or (asked.count('"') % 2 == 0 and asked.count("(") == asked.count(")"))


@pytest.mark.parametrize(
    ("place", "day"),
    [(PLACE, date(2026, 11, 20)), (PLACE, date(2027, 6, 21)),
     (PLACE.model_copy(update={"latitude_deg": -38.9, "longitude_deg": 177.5,
                               "zone": "Pacific/Auckland"}), date(2027, 2, 13))],
)  # fmt: skip
def test_a_night_drawn_small_agrees_with_the_night_itself(place, day):
    night, shape = make_night(place, day), night_shapes(place, (day,))[day]
    near = timedelta(minutes=4)
    dark = [(one.start_utc, one.end_utc) for one in night.dark]
    assert len(dark) == len(shape.dark)
    for (start, end), drawn in zip(dark, shape.dark, strict=True):
        assert abs(drawn.start_utc - start) < near and abs(drawn.end_utc - end) < near
    moon = next(one for one in night.bodies if one.body == "moon")
    minutes = sum((one.end_utc - one.start_utc).total_seconds() / 60 for one in shape.moon_up)
    exact = sum((one.end_utc - one.start_utc).total_seconds() / 60 for one in moon.up)
    assert minutes == pytest.approx(exact, abs=8)


def test_a_night_no_ephemeris_reaches_is_left_out_and_the_bar_still_stands():
    assert night_shapes(PLACE, (date(2080, 1, 1),)) == {}
    evening = EveningRow(id=1, date=date(2080, 1, 1), site_id=None)
    at = datetime(2080, 1, 1, 20, tzinfo=UTC)
    marks = [BarMark(id=1, at_utc=at, object_name="Moon", outcome=None)]
    bar = make_bar(evening, None, None, marks, Sitting(), catalogue(), "UTC")
    assert bar.start_utc < at < bar.end_utc and bar.words == "1 note"


def test_targets_stay_until_the_next_and_no_longer_than_two_hours():
    looks = looked(("m42", "e1", 0), ("m42", "e2", 10), ("moon", "e1", 25))
    sitting = Sitting(begun_utc=NOW, looks=looks, closed_at_utc=NOW + timedelta(hours=9))
    evening = EveningRow(id=1, date=EVENING, site_id=1)
    bar = make_bar(evening, PLACE, None, [], sitting, catalogue(), "UTC")
    minutes = [(one.end_utc - one.start_utc).total_seconds() / 60 for one in bar.stays]
    assert minutes == [25, 120] and bar.stays[0].label.startswith("M42")


def test_the_lists_that_ship_are_whole_and_in_order():
    lists = {one.key: one for one in shipped_lists(catalogue())}
    assert {key: len(one.entries) for key, one in lists.items()} == {
        "classic": 110, "planets": 7, "moon": 50, "doubles": 40,
    }  # fmt: skip
    assert [one.name.split()[0] for one in lists["classic"].entries] == [
        f"M{n}" for n in range(1, 111)
    ]
    keys = [one.target_key for given in lists.values() for one in given.entries]
    assert None not in keys and len(set(keys)) == len(keys)
    east = [catalogue().get(one.target_key).moon_longitude_deg for one in lists["moon"].entries]
    assert east == sorted(east, reverse=True)


def some_list():
    entries = (ListEntry(name="Pleiades", target_key="m45"), ListEntry(name="Nowhere 12"),
               ListEntry(name="M1", target_key="m1"))  # fmt: skip
    return GivenList(key="own-1", title="Mine", about="", entries=entries, list_id=1)


def test_progress_counts_what_was_seen_glimpsed_and_tried():
    noted = {
        "m45": Noted(state="glimpsed", times=3, observation_id=7, first_utc=NOW),
        "~nowhere12": Noted(state="seen", times=1, observation_id=8, first_utc=NOW),
        "m1": Noted(state="tried", times=1, observation_id=9, first_utc=NOW),
    }
    progress = progress_of(some_list(), noted, catalogue())
    assert [one.state for one in progress.marks] == ["glimpsed", "seen", "tried"]
    assert progress.words == "2 of 3 seen, 1 of them glimpsed, 1 tried in vain; 1 to go."
    assert progress_of(some_list(), {}, catalogue()).words == "0 of 3 seen; 3 to go."
    assert resolved("nowhere 12", catalogue()).target_key is None


def test_a_log_keeps_the_lists_order_and_shows_its_gaps():
    note = Observation(
        id=7, observed_at_utc=datetime(2027, 7, 1, 22, 30, tzinfo=UTC), object_name="m45",
        telescope_name="Tube", glass="13 mm", magnification=58.4, steadiness=3, transparency=4,
        outcome="glimpsed", observer_name="Ilse", words="=SUM(A1)", zone="Europe/Berlin",
        site_name="Here", evening_id=1,
    )  # fmt: skip
    noted = {"m45": Noted(state="glimpsed", times=1, observation_id=7, first_utc=NOW),
             "m1": Noted(state="tried", times=1, observation_id=9, first_utc=NOW)}  # fmt: skip
    evening = EveningRow(id=1, date=EVENING, site_id=1, faintest_seen_mag=5.6)
    south = PLACE.model_copy(update={"latitude_deg": -38.94, "longitude_deg": -70.2})
    log = make_log(progress_of(some_list(), noted, catalogue()), {7: note},
                   {7: Background(evening, south)})  # fmt: skip
    assert [one.is_open for one in log.rows] == [False, True, True]
    first = log.rows[0]
    # summer time of the place, not of whoever prints it
    assert (first.number, first.date, first.time) == ("1", "2027-07-02", "00:30 CEST")
    assert first.position == "38.94° S, 70.20° W" and first.power == "58× · 13 mm"
    assert first.sky == "4 of 5, to 5.6 mag" and first.description == "Glimpsed. =SUM(A1)"
    assert log_cells(plain_note(note), Background(None, None))["position"] == ""


def test_what_is_named_ahead_really_stands_there_and_shows():
    things = catalogue()
    rows = [things.row_of(key) for key in ("m42", "m13", "m7", "saturn", "moon", "albireo")]
    ahead = {one.target_key: one for one in look_ahead(things, rows, looker(), EVENING)}
    for key in ("m42", "m13", "albireo"):
        one, target = ahead[key], things.get(key)
        star = ephem.FixedBody()
        star._ra, star._dec = math.radians(target.ra_deg), math.radians(target.dec_deg)
        here = ephem.Observer()
        here.lat, here.lon, here.elevation, here.pressure = "48.7", "8.1", 420, 0
        here.date = one.at_utc.replace(tzinfo=None)
        star.compute(here)
        assert math.degrees(star.alt) == pytest.approx(one.altitude_deg, abs=0.05)
        sun, moon = ephem.Sun(here), ephem.Moon(here)
        assert math.degrees(sun.alt) < -8 and one.word in one.words
        if key != "albireo":  # what is faint is named for the dark, and without the Moon
            assert math.degrees(sun.alt) < -16 and (moon.alt < 0 or moon.phase < 40)
    assert ahead["m7"].date is None and "never stands high enough" in ahead["m7"].words
    assert ahead["saturn"].date == EVENING and ahead["saturn"].altitude_deg > 25
    assert ahead["moon"].date is None


def test_what_a_small_glass_does_not_show_is_not_promised():
    things = catalogue()
    small = Telescope(name="Toy", aperture_mm=40, focal_length_mm=400, design="refractor")
    city = PLACE.model_copy(update={"dark_sky_class": 9})
    rows = [things.row_of("m76")]
    (one,) = look_ahead(things, rows, looker(city, small), EVENING)
    assert one.date is None and "does not show through this kit" in one.words
    (dark,) = look_ahead(things, rows, looker(), EVENING)
    assert dark.date is not None


def test_features_are_named_for_low_light_while_the_moon_stands_high():
    things = catalogue()
    row = things.row_of("crater plato")
    (one,) = look_ahead(things, [row], looker(), EVENING)
    at = np.array([one.at_utc.timestamp()])
    sky = sun_and_moon(PLACE, at)
    numbers = things.numbers
    light = lights_deg(numbers["moon_latitude_deg"][[row]], numbers["moon_longitude_deg"][[row]],
                       at, sky)  # fmt: skip
    assert 0 <= light[0, 0] <= 8 and sky.moon_deg[0] >= MOON_UP_DEG - 0.1 and sky.sun_deg[0] < -2.9
    # Plato lies 9° west: the Sun rises over it a day or so after the first quarter
    moon = ephem.Moon(one.at_utc.replace(tzinfo=None))
    assert 50 < moon.phase < 80


def notes_of(powers, steadiness=3, kind="planet", evenings=4, name="Tube"):
    return [PowerNote(name, kind, steadiness, power, n % evenings) for n, power in
            enumerate(powers)]  # fmt: skip


def test_air_is_learned_from_enough_bright_notes_alone():
    ruled = air_limit(seeing_arcsec(3))
    enough = notes_of([1.2 * ruled] * LEAST_NOTES)
    assert learned_airs(enough, 3)["Tube"].magnification == pytest.approx(1.2 * ruled)
    assert learned_airs(enough[:-1], 3) == {} == learned_airs(enough, None)
    assert learned_airs(enough, 4) == {}
    assert learned_airs(notes_of([99.0] * LEAST_NOTES, evenings=LEAST_EVENINGS - 1), 3) == {}
    assert learned_airs(notes_of([20.0] * 40, kind="galaxy"), 3) == {}


@given(st.lists(st.floats(10, 2000), min_size=LEAST_NOTES, max_size=40))
def test_notes_shift_the_rule_and_no_more(powers):
    ruled = air_limit(seeing_arcsec(3))
    learned = learned_airs(notes_of(powers), 3)["Tube"]
    assert LEAST_OF_RULE * ruled <= learned.magnification <= MOST_OF_RULE * ruled
    assert learned.ruled_magnification == ruled and learned.notes == len(powers)


def tried(factor, count, rng, name="Ilse"):
    found = []
    for margin in rng.uniform(-0.2, 1.0, count):
        left = margin - math.log10(factor) + rng.normal(0, 0.15)
        outcome = "seen" if left > 0.25 else "glimpsed" if left > 0 else "not seen"
        found.append(Tried(name, float(margin), outcome))
    return found


@pytest.mark.parametrize("factor", [1.3, 2.0, 3.2])
def test_an_eye_is_found_again_from_what_it_saw(factor):
    fitted = fitted_factor(tried(factor, 300, np.random.default_rng(4)))
    assert math.log10(fitted / factor) == pytest.approx(0, abs=0.06)


def test_an_eyes_factor_is_offered_from_enough_notes_both_ways_and_not_for_nothing():
    ilse = Observer(id=1, version=3, name="Ilse", practice="first")
    notes = tried(1.4, 80, np.random.default_rng(1), "ILSE")
    (offer,) = eyes_lesson(notes, [ilse]).offers
    assert offer.now == 2.8 and 1.1 < offer.field_factor < 1.8 and offer.version == 3
    settled = ilse.model_copy(update={"field_factor": offer.field_factor})
    assert eyes_lesson(notes, [settled]).offers == []
    only_seen = [one._replace(outcome="seen") for one in notes]
    few = eyes_lesson(only_seen, [ilse])
    assert few.rows == [] and few.wanted == LEAST_JUDGED and str(LEAST_EACH_WAY) in few.sentence
    assert eyes_lesson(notes[: LEAST_JUDGED - 1], [ilse]).rows == []


def test_hours_go_to_what_was_in():
    looks = looked(("m42", "e1", 0), ("m42", "e2+a1", 30), ("moon", "e1", 45))
    sitting = Sitting(begun_utc=NOW, looks=looks, closed_at_utc=NOW + timedelta(minutes=105))
    told = hours_lesson([sitting], {1: "Long", 2: "Short", 3: "Idle"})
    assert [(one.label, round(one.value, 2)) for one in told.rows] == [
        ("Long", 1.5),
        ("Short", 0.25),
    ]
    assert "Long was in for 86 %" in told.sentence and "Idle stays in the case" in told.sentence
    brief = sitting.model_copy(update={"closed_at_utc": looks[-1].at_utc})
    assert hours_lesson([brief], {}).rows == []
    unlooked = Sitting(begun_utc=NOW, since_utc=NOW)  # gone to the telescope, nothing in it yet
    assert hours_lesson([unlooked, sitting], {}).rows[0].value == told.rows[0].value


def test_lessons_say_nothing_from_too_few_records():
    assert powers_lesson(notes_of([100.0] * (LEAST_IN_ROW - 1))).rows == []
    (row,) = powers_lesson(notes_of([80.0, 100.0, 100.0, 120.0, 160.0])).rows
    assert (row.value, row.records, row.label) == (100.0, 5, "Moon and planets, air 3 of 5")
    assert skies_lesson([Judgement("Here", 2, 4.0, None)] * (LEAST_EVENINGS - 1)).rows == []
    (sky,) = skies_lesson([Judgement("Here", 2, 4.0, 5.5)] * LEAST_EVENINGS).rows
    assert sky.words == "4.0 of 5, to 5.5 mag" and sky.label == "Here, Feb"


def test_a_timed_field_stands_beside_what_the_label_means():
    drift = TimedDrift(
        timed_at_utc=NOW, telescope_name="Tube", eyepiece_id=2, eyepiece_name="E2",
        target_label="Rigel", elapsed_s=250, true_field_deg=1.0, field_stop_mm=13.3,
    )  # fmt: skip
    (row,) = fields_lesson([drift], {2: CASE[1]}).rows
    assert row.value == 13.3 and row.mark == pytest.approx(13 * math.radians(60))
    assert fields_lesson([], {}).rows == []


def test_use_makes_a_task_due_before_its_days_are_over():
    task = Upkeep(id=1, item_kind="finder", item_id=4, task="battery", every_days=365,
                  every_uses=3, last_done=date(2027, 1, 1))  # fmt: skip
    names = {("finder", 4): "Dot"}
    used = [date(2026, 12, 30), date(2027, 1, 1), date(2027, 1, 8), date(2027, 2, 1), EVENING]
    (due,) = due_tasks([task], names, EVENING, {("finder", 4): used})
    assert due.due_since_days == 0 and "used on 3 evenings since" in due.words
    assert due_tasks([task], names, EVENING, {("finder", 4): used[:-1]}) == []
    only_days = task.model_copy(update={"every_uses": None})
    assert due_tasks([only_days], names, EVENING, {("finder", 4): used}) == []


@pytest.mark.parametrize(
    "at_utc", [EARLIEST_UTC - timedelta(seconds=1), NOW + timedelta(days=1, seconds=1)]
)
def test_nobody_notes_what_nobody_can_have_seen(at_utc):
    note = replace_time(Observation(observed_at_utc=NOW, object_name="Moon"), at_utc)
    with pytest.raises(OutOfRange, match="observed_at_utc"):
        require_noted(note, NOW)
    require_noted(replace_time(note, NOW - timedelta(days=365 * 70)), NOW)


def replace_time(note, at_utc):
    return note.model_copy(update={"observed_at_utc": at_utc})


def test_a_place_behind_a_wall_waits_for_another_month():
    things = catalogue()
    wall = [
        {"azimuth_deg": azimuth, "altitude_deg": altitude}
        for azimuth, altitude in ((90, 0), (91, 60), (269, 60), (270, 0))
    ]
    walled = Site.model_validate({**PLACE.model_dump(), "skyline": wall})
    (blocked,) = look_ahead(
        things, [things.row_of("m42")], replace(looker(), place=walled), EVENING
    )
    assert blocked.date is None
