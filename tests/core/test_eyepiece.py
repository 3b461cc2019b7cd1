"""At the eyepiece: the walk up and down, keeping a target, air and eyes, people, packing."""

from datetime import UTC, datetime, timedelta
from itertools import product
from math import asin, atan2, cos, degrees, log10, radians

import numpy as np
import pytest

from jade_perch.core.bench.advice import MOST_WORDS
from jade_perch.core.bench.budget import Reading
from jade_perch.core.bench.cooling import Forecast
from jade_perch.core.bench.tracking import horizon_vectors, sky_after
from jade_perch.core.evening.choose import CALM_RATIO
from jade_perch.core.evening.closer import look_closer
from jade_perch.core.evening.context import EveningChoice, EveningRow
from jade_perch.core.evening.desk import ready
from jade_perch.core.evening.interest import paths_of
from jade_perch.core.evening.plan import Block
from jade_perch.core.evening.prospect import look_of
from jade_perch.core.evening.view import Through, drift_way_deg, make_disc
from jade_perch.core.eyepiece.coming import events_ahead
from jade_perch.core.eyepiece.keeping import keep_on, push_of, side_words, zenith_of
from jade_perch.core.eyepiece.lookfor import look_for
from jade_perch.core.eyepiece.packing import Used, drive_words, left_open, pack_items, totals_of
from jade_perch.core.eyepiece.people import hint_for, known_pivot_mm, make_queue, reach_of
from jade_perch.core.eyepiece.pointing import sun_check
from jade_perch.core.eyepiece.screen import Known, Offer, make_screen, offer_of
from jade_perch.core.eyepiece.sitting import Looked, Sitting, WhiteLight
from jade_perch.core.eyepiece.tonightsky import dark_eyes, steadiness_steps
from jade_perch.core.eyepiece.walk import climb_rungs, find_step, make_walk
from jade_perch.core.kit import Amplifier, Diagonal, Finder, Mount, Observer, Telescope
from jade_perch.core.moments import Now
from jade_perch.core.optics.viewer import Course, make_viewer, naked_limit_mag
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.targets import Placed
from jade_perch.core.units import METRIC

from .test_prospects import COMMON, EVENING, GLASS, SOUTH, THINGS, TUBE, case_of, desk

BARLOW = Amplifier(id=1, name="Barlow 1.8×", factor=1.8, focal_length_mm=62)
ROCKER = Mount(id=1, name="Rocker", kind="rocker", lowest_mm=330, highest_mm=330)
KNOBS = Mount(id=2, name="Knobs", kind="altaz_slow_motion")
HEAD = Mount(id=3, name="Head", kind="equatorial")
FORK = Mount(id=4, name="Fork", kind="altaz_motor")
DESK = ready(desk(amplifiers=(BARLOW,), mount=ROCKER))
CASE = case_of(DESK)
SHOWN = ("jupiter", "moon", "m42", "m31", "m35", "m45", "Algieba", "m13", "NGC 2392")
NIGHT = make_night(COMMON, EVENING.date())
AIR = Forecast(air_c=12, humidity_percent=50, hour_utc=EVENING, source="file", words="")


def walk_to(key, one=DESK, case=CASE):
    prospect = look_closer(case, case.catalogue.find(key).key).prospect
    return make_walk(one.ladder, prospect, None, [], one.amplifiers), prospect


def known(key):
    return THINGS.find(key)


def path(place):
    """Where a target goes from the evening on."""
    return paths_of(COMMON, [place], EVENING)[0]


@pytest.mark.parametrize("key", [one for one in SHOWN if known(one)])
def test_every_walk_climbs_by_steps_that_lead_on_and_comes_down_again(key):
    walk, _ = walk_to(key)
    power = {rung.key: rung.magnification for rung in DESK.ladder.rungs}
    last = len(walk.steps) - 1
    assert walk.steps[0].spot.kind == "point" and walk.steps[last].spot.kind == "note"
    assert len({one.spot.model_dump_json() for one in walk.steps}) == len(walk.steps)
    for number, one in enumerate(walk.steps[:-1]):
        assert len(one.instruction.split()) <= MOST_WORDS, one.instruction
        seen, at = set(), number
        while at != last:  # onward always ends at the note
            assert at not in seen
            seen.add(at)
            at = walk.steps[at].next
        if one.spot.kind == "look":
            softer = None if one.softer is None else walk.steps[one.softer]
            lowest = one.spot.rung_key == walk.rung_keys[0]
            assert (softer is None) == lowest
            if softer is not None:
                assert softer.spot.is_down and softer.detail
                assert power[softer.spot.rung_key] < power[one.spot.rung_key]
        if one.spot.kind == "put" and not one.spot.is_down and "a" in one.spot.rung_key:
            before = walk.steps[number - 1]
            assert before.spot.kind == "look", "an amplifier only goes in once it is centred"
    climbed = [power[one] for one in walk.rung_keys]
    assert climbed == sorted(climbed)
    assert all(one <= CALM_RATIO * DESK.ladder.air_magnification * 1.001 for one in climbed)


def test_the_air_judged_at_the_eyepiece_ends_the_climb_lower_at_once():
    boiling = ready(desk(amplifiers=(BARLOW,), choice=EveningChoice(steadiness=1)))
    calm, poor = (climb_rungs(one.ladder, look_closer(case_of(one), "jupiter").prospect)[1]
                  for one in (DESK, boiling))  # fmt: skip
    assert poor.magnification <= 240 / 4 < calm.magnification


def test_without_an_eyepiece_the_walk_is_pointing_and_noting():
    bare = ready(desk(eyepieces=()))
    walk, _ = walk_to("moon", bare, case_of(bare))
    assert [(one.spot.kind, one.next) for one in walk.steps] == [("point", 1), ("note", None)]


def test_the_last_step_is_found_again_and_a_rung_that_is_gone_begins_anew():
    walk, _ = walk_to("jupiter")
    for number, one in enumerate(walk.steps):
        assert find_step(walk, one.spot) == number
    gone = walk.steps[2].spot.model_copy(update={"rung_key": "e99"})
    assert find_step(walk, gone) == 0


def test_looking_for_things_is_honest_for_everything_there_is():
    colours = ("red", "green", "blue", "orange", "yellow", "golden", "colour")
    for key, word in product(THINGS.keys[::17], ("easy", "at the limit", "not from here")):
        look = look_of(CASE, THINGS.get(key), word, CASE.rungs[-1].key)
        found = look_for(look)
        assert 1 <= len(found) <= 3 and (word == "not from here" or len(found) >= 2)
        for one in found:
            assert len(one.words.split()) <= MOST_WORDS, one.words
            assert not any(f" {colour}" in one.words.lower() for colour in colours)
        assert [one.is_hard for one in found] == sorted(one.is_hard for one in found)


@pytest.mark.parametrize("declination_deg", [0.0, 60.0, -35.0])
def test_a_hand_pushed_target_leaves_by_drift_alone(declination_deg):
    rung = DESK.ladder.rungs[0]
    place = Placed(target=known("m42"), altitude_deg=35, azimuth_deg=180)
    (one,) = keep_on(
        path(place), [rung], ROCKER, COMMON, {}, Course(declination_deg=declination_deg)
    )
    wanted = rung.true_field_deg * 3600 / 2 / (15.041067 * cos(radians(declination_deg)))
    assert one.edge_s == pytest.approx(wanted, abs=0.1)
    assert one.push_s == pytest.approx(0.7 * wanted, abs=0.1) and one.worst_s == one.edge_s


def test_a_following_mount_keeps_longer_and_what_was_never_read_makes_it_about():
    rung = DESK.ladder.rungs[-1].model_copy(update={"field_is_about": False})
    place = Placed(target=known("m42"), altitude_deg=35, azimuth_deg=180)
    told = {name: Reading(is_recorded=True) for name in ("level", "north", "pole")}
    at = (COMMON,)
    (read,) = keep_on(path(place), [rung], HEAD, *at, told, Course())
    unread = {name: Reading(doubt_deg=2.0) for name in told}
    (doubted,) = keep_on(path(place), [rung], HEAD, *at, unread, Course())
    assert read.edge_s is None and not read.is_about
    assert doubted.is_about and doubted.worst_s is not None and doubted.push_s < doubted.worst_s


@pytest.mark.parametrize(
    ("site", "azimuth_deg", "wanted"),
    [
        (COMMON, 180, "to the right."),  # the south goes west: right, as one faces it
        (COMMON, 90, "up"),
        (COMMON, 270, "down"),
        (SOUTH, 0, "to the left."),  # north of a southern observer it goes the other way
    ],
)
def test_the_hand_follows_the_sky(site, azimuth_deg, wanted):
    place = Placed(target=known("m42"), altitude_deg=30, azimuth_deg=azimuth_deg)
    words = push_of(place, ROCKER, site.latitude_deg, 0).hand
    assert wanted in words
    knobs = push_of(place, KNOBS, site.latitude_deg, 0).hand
    assert ("height knob" if wanted in ("up", "down") else "round knob") in knobs
    assert "polar axis" in push_of(place, HEAD, site.latitude_deg, 0).hand
    assert "motors" in push_of(place, FORK, site.latitude_deg, 0).hand


@pytest.mark.parametrize("diagonal", [None, Diagonal(id=1, name="S"), Diagonal(
    id=2, name="P", kind="correct_image")])  # fmt: skip
def test_a_target_leaves_to_where_it_really_goes_in_this_glass(diagonal):
    """Against the same star drawn again a little later in the field it has left."""
    lens = Telescope(id=1, name="L", aperture_mm=100, focal_length_mm=600, design="refractor")
    one = ready(desk(telescope=lens, diagonal=diagonal, eyepieces=GLASS[:1]))
    through = Through(lens, diagonal, one.ladder.rungs[0])
    target = known("m42")
    way = drift_way_deg(through, target, COMMON, EVENING)
    disc = make_disc(through, target, THINGS, COMMON, EVENING)
    assert way == pytest.approx(disc.west_deg, abs=0.01)
    names = {0: "the right", 90: "the top", 180: "the left", 270: "the bottom"}
    for angle, name in names.items():
        assert side_words(angle) == name == side_words(angle + 10)


def test_the_zenith_hole_is_told_before_the_target_is_in_it():
    # a star that stands overhead in three quarters of an hour
    east, north, up = sky_after(horizon_vectors(90, 0)[None], 48.7, np.array([-45.0]))[0, 0]
    place = {"altitude_deg": degrees(asin(up)), "azimuth_deg": degrees(atan2(east, north)) % 360}
    meridian = Placed(target=known("m42"), **place)
    told = zenith_of(path(meridian), ROCKER, COMMON, EVENING)
    minutes = (told.enters_utc - EVENING) / timedelta(minutes=1)
    # it goes 9.9' a minute there: so long before it comes within 90° less the zone's edge
    assert minutes == pytest.approx(45 - 60 * (90 - told.from_deg) / 9.93, abs=1)
    assert "overhead" in told.words
    overhead = Placed(target=known("m42"), altitude_deg=89, azimuth_deg=150)
    later = zenith_of(path(overhead), ROCKER, COMMON, EVENING)
    assert later.enters_utc == EVENING and later.leaves_utc > EVENING
    west = Placed(target=known("m42"), altitude_deg=20, azimuth_deg=220)
    low = zenith_of(path(west), ROCKER, COMMON, EVENING)
    assert low.words == "" and zenith_of(path(meridian), HEAD, COMMON, EVENING) is None


def test_haze_costs_what_it_says_and_the_faintest_star_wins_over_it():
    usual, hazy = (make_viewer(None, COMMON, 3, transparency=step) for step in (3, 1))
    assert naked_limit_mag(usual) - naked_limit_mag(hazy) == pytest.approx(1.0, abs=1e-9)
    seen = desk(choice=EveningChoice(faintest_seen_mag=5.0, transparency=1))
    # Knoll, Tousey and Hulburt, as Schaefer turns it about, for stars of the fifth magnitude
    wanted = 21.58 - 5 * log10(10 ** (1.586 - 5.0 / 5) - 1)
    assert seen.viewer().sky_mpsas == pytest.approx(wanted, abs=0.02)
    assert seen.viewer().field_factor == make_viewer(None, COMMON, 3).field_factor
    dark, bright = case_of(desk()), case_of(seen)
    assert bright.sky.sky_cd_m2.min() > dark.sky.sky_cd_m2.min()
    assert desk().place.naked_eye_limit_mag is None, "the place itself keeps what it had"


def test_the_five_steps_of_the_air_are_the_ladders_own():
    assert [one.effect for one in steadiness_steps()] == [
        f"up to about {power}×" for power in (60, 80, 120, 160, 240)
    ]


def test_eyes_adapt_from_dusk_until_somebody_sees_white_light():
    dusk = next(one for one in NIGHT.lights if one.light == "civil").end_utc
    tam = Observer(id=2, name="T")
    at = (NIGHT, tam)

    def eyes(minutes, *lights):
        return dark_eyes(
            Sitting(lights=list(lights)), *at, dusk + timedelta(minutes=minutes), "UTC"
        )

    assert eyes(-1).word == "not yet" and eyes(29).word == "adapting" and eyes(29).is_about
    assert eyes(30).word == "adapted"
    white = WhiteLight(person_id=2, at_utc=dusk + timedelta(minutes=60))
    again = eyes(70, white)
    assert again.word == "adapting" and not again.is_about and "10 min" in again.words
    others = WhiteLight(person_id=1, at_utc=white.at_utc)
    assert eyes(70, others).word == "adapted", "somebody else's lamp is not mine"
    assert eyes(70, others.model_copy(update={"person_id": None})).word == "adapting"


ILSE = Observer(id=1, name="Ilse", glasses="astigmatism", sight_diopters=-2.5, eye_height_mm=1580)
TAM = Observer(id=2, name="Tam", age_years=11, sight_diopters=0, eye_height_mm=1290)


def hint(person, before, rung_number, focal_mm, factor=1.0):
    rung = DESK.ladder.rungs[rung_number]
    return hint_for(person, before, rung, focal_mm, factor, ("", False), METRIC)


def test_people_refocus_by_the_difference_of_their_eyes():
    wide, strong = 0, next(
        n for n, one in enumerate(DESK.ladder.rungs) if one.key == "e4"
    )  # fmt: skip
    kept = hint(ILSE, TAM, wide, 30)  # glasses on in a wide beam: nothing to make up for
    assert "hardly" in kept.focus and "on" in kept.glasses and "down" in kept.guard
    # off at 7.5 mm: 7.5² · 2.5 ÷ 1000 = 0.14 mm inwards, and back out for the next one
    assert hint(ILSE, TAM, strong, 7.5).focus == "Focuser about 0.1 mm in after Tam."
    assert hint(TAM, ILSE, strong, 7.5).focus == "Focuser about 0.1 mm out after Ilse."
    assert "off" in hint(ILSE, TAM, strong, 7.5).glasses
    far = Observer(id=3, name="Far", sight_diopters=4)
    assert hint(far, None, wide, 30).focus == "Focuser about 3.6 mm out."
    assert hint(far, None, wide, 30, 2.0).focus == "Focuser about 0.9 mm out."  # over 2 squared
    assert "not known" in hint(Observer(id=4, name="N"), None, wide, 30).focus
    assert hint(TAM, None, wide, 30).is_child and not hint(ILSE, None, wide, 30).is_child


def test_a_seat_or_a_step_is_named_for_the_height_the_eyepiece_has():
    tube = Telescope(
        id=1, name="T", aperture_mm=140, focal_length_mm=760, design="newtonian",
        tube_length_mm=740, pivot_from_front_mm=430, eyepiece_angle_deg=90,
    )  # fmt: skip
    # 353 mm in front of the pivot, to the side: level with it at 0°, as high as that at 90°
    at = (tube, None)
    assert "step" in reach_of(TAM, *at, 90, 1000, METRIC)[0]
    assert reach_of(TAM, *at, 90, 1000, METRIC)[0].startswith("A firm step of 6 cm")
    assert reach_of(ILSE, *at, 45, 850, METRIC)[0].startswith("Seat at 3")
    assert "Kneels" in reach_of(ILSE, *at, 30, 330, METRIC)[0]
    assert reach_of(ILSE, *at, 30, None, METRIC) == ("", True)
    assert known_pivot_mm([], ROCKER) == 330 and known_pivot_mm([], KNOBS) is None


def test_a_queue_says_how_often_to_bring_the_target_back():
    rung = DESK.ladder.rungs[0]
    place = Placed(target=known("m42"), altitude_deg=35, azimuth_deg=180)
    (slow,) = keep_on(path(place), [rung], ROCKER, COMMON, {}, Course(declination_deg=70))
    sitting = Sitting(queue=[2, 99])
    found = make_queue(sitting, [ILSE, TAM], None, slow)
    assert found.next == ["Tam"] and found.turns == int(slow.push_s // 120)
    assert f"every {found.turns} turns" in found.words
    quick = slow.model_copy(update={"push_s": 45.0})
    assert "45 s" in make_queue(sitting, [ILSE, TAM], None, quick).words


FINDERS = (Finder(id=1, name="Dot", kind="dot", telescope_id=1),
           Finder(id=2, name="Six", kind="straight", telescope_id=1))  # fmt: skip
USED = Used(TUBE, FORK, FINDERS, GLASS, (BARLOW,), ())


def looked(*keys):
    return [Looked(target_key="moon", rung_key=key, at_utc=EVENING) for key in keys]


def test_packing_lists_what_was_in_and_nothing_else():
    sitting = Sitting(begun_utc=EVENING, looks=looked("e1", "e3+a1"), packed=["eyepiece-1"])
    items = {one.key: one for one in pack_items(USED, sitting)}
    assert {"eyepiece-1", "eyepiece-3", "amplifier-1", "finder-1", "mount-4", "tube-1"} <= set(
        items
    )
    assert not {"eyepiece-2", "eyepiece-4", "finder-2", "filters"} & set(items)
    assert items["eyepiece-1"].is_done and not items["eyepiece-3"].is_done
    assert items["eyepiece-3"].eyepiece_id == 3
    evening = EveningRow(date=EVENING.date(), site_id=1)
    left = left_open(USED, sitting, evening)
    assert "eyepiece-1" not in [one.key for one in left.items] and "not closed" in left.words
    done = sitting.model_copy(update={"packed": list(items), "closed_at_utc": EVENING})
    assert left_open(USED, done, evening) is None
    assert left_open(USED, Sitting(), evening) is None


def test_an_evening_is_counted_and_the_way_home_named():
    end = EVENING + timedelta(hours=4, minutes=5)
    sitting = Sitting(begun_utc=EVENING, looks=looked("e1", "e2"))
    totals = totals_of(sitting, 1, end)
    assert totals.words == "4 h 05 min at the eyepiece: 1 target, 2 rungs, 1 note."
    assert "long evening" in drive_words(sitting, end, "UTC")
    for minutes, words in ((239, "Rest before"), (240, "long evening")):
        assert words in drive_words(sitting, EVENING + timedelta(minutes=minutes), "Etc/GMT+12")
    short = Sitting(begun_utc=end - timedelta(hours=1))
    midnight = datetime(2027, 2, 14, 0, 30, tzinfo=UTC)
    assert "00:30" in drive_words(Sitting(begun_utc=midnight), midnight, "UTC")
    assert "Rest before" in drive_words(short, end - timedelta(hours=1), "UTC")


def test_what_comes_next_is_told_in_time_and_simulated_air_is_never_due():
    begun = Sitting(begun_utc=EVENING)
    at = (AIR, EVENING + timedelta(minutes=91), METRIC, None, COMMON.skyline)
    found = {one.kind: one for one in events_ahead(NIGHT, begun, *at)}
    assert found["break"].is_due and found["moon"].at_utc > EVENING
    rested = Sitting(begun_utc=EVENING, break_utc=EVENING + timedelta(minutes=80))
    assert not {one.kind: one for one in events_ahead(NIGHT, rested, *at)}["break"].is_due
    cold = AIR.model_copy(update={"air_c": 5.0})
    felt = {one.kind: one for one in events_ahead(NIGHT, begun, cold, EVENING, *at[2:])}["cold"]
    assert felt.at_utc == EVENING + timedelta(hours=1)
    assert "cold" not in {one.kind for one in events_ahead(NIGHT, begun, AIR, EVENING, *at[2:])}
    wet = AIR.model_copy(update={"humidity_percent": 95.0})
    dew = {one.kind: one for one in events_ahead(NIGHT, begun, wet, *at[1:])}["dew"]
    made_up = wet.model_copy(update={"source": "simulated"})
    told = {one.kind: one for one in events_ahead(NIGHT, begun, made_up, *at[1:])}["dew"]
    assert dew.is_due and told.is_simulated and not told.is_due
    assert all(len(one.words) <= 40 for one in found.values())


def test_the_sun_is_asked_before_any_target_and_again_at_every_moment():
    noon, night = datetime(2027, 2, 13, 11, 30, tzinfo=UTC), EVENING
    venus, star = known("venus"), known("m42")
    assert sun_check(star, COMMON, Now(noon)).refused
    assert not sun_check(star, COMMON, Now(night)).refused
    assert not sun_check(venus, COMMON, Now(night)).refused
    near = known("mercury")
    assert sun_check(near, COMMON, Now(noon)).refused


def test_a_planned_target_has_its_time_five_minutes_before_it():
    starts = EVENING + timedelta(minutes=20)
    planned = Block(
        kind="target", item_id=1, target_key="m42", label="M42", starts_utc=starts,
        ends_utc=starts + timedelta(minutes=10), minutes=10, rung_key=None, rung_label="",
        word="easy", is_pinned=False,
    )  # fmt: skip
    early, due = (offer_of(planned, starts - timedelta(minutes=m), "UTC") for m in (6, 5))
    assert not early.is_now and "19:50" in early.words and due.is_now


def test_what_the_guard_said_holds_until_the_sun_may_be_up():
    offers = [Offer(target_key="m42", label="", words="", starts_utc=None, is_now=True,
                    is_planned=False)]  # fmt: skip
    night = make_screen(DESK, Known(CASE, Sitting(), {}, 330, AIR, offers, "", [])).here
    assert night.safe_until_utc == NIGHT.sunrise_utc - timedelta(minutes=10)
    noon = ready(desk(now=datetime(2027, 2, 13, 12, 30, tzinfo=UTC)))
    by_day = make_screen(noon, Known(case_of(noon), Sitting(), {}, 330, AIR, offers, "", [])).here
    assert by_day.sun.refused and by_day.safe_until_utc == noon.moment_utc
    assert by_day.path is None and "Never sweep" in by_day.walk.steps[0].detail


def test_a_screen_tells_one_target_whole():
    offers = [Offer(target_key="jupiter", label="Jupiter", words="", starts_utc=None,
                    is_now=True, is_planned=False)]  # fmt: skip
    told = make_screen(
        DESK,
        Known(CASE, Sitting(), {}, 330, AIR, offers, "Free observing.", ["jupiter", "m42"]),
    )
    here = told.here
    assert told.is_between and here.target.key == "jupiter" and here.at == 0
    assert here.counted == "1 of 2" and not here.sun.refused
    assert [one.rung_key for one in here.keeping] == here.walk.rung_keys
    assert here.push.seen.startswith("It leaves to")
