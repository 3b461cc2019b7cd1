"""What is printed, before any page: the whole sky against another library, a card's words."""

from datetime import UTC, datetime

import ephem
import numpy as np
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.fieldcards import make_cards
from jade_perch.core.evening.plan import PlanItem, make_plan
from jade_perch.core.evening.prospects import make_prospects
from jade_perch.core.evening.skycard import make_sky
from jade_perch.core.skyline import SkylinePoint

from .test_prospects import COMMON, THINGS, case_of, desk
from .test_schedule import ROCKER, START

AT = datetime(2027, 2, 13, 20, tzinfo=UTC)


def map_place(altitude, azimuth):
    """Right and up on a map held overhead: north up, east left, the zenith in the middle."""
    out = 1 - np.degrees(altitude) / 90
    return -out * np.sin(azimuth), out * np.cos(azimuth)


def sky(one, at=AT, blocks=()):
    return make_sky(THINGS, one.place, one.night, one.viewer(), at, blocks)


def test_the_map_has_everything_where_another_library_has_it():
    one = desk()
    there = ephem.Observer()
    there.lat, there.lon = str(one.place.latitude_deg), str(one.place.longitude_deg)
    there.elevation, there.pressure, there.date = one.place.elevation_m, 0, ephem.Date(AT)
    card = sky(one)
    named = {dot.label: dot for dot in (*card.named, *card.bodies)}
    bodies = {"Moon": ephem.Moon(), "Jupiter": ephem.Jupiter(), "Sirius": ephem.star("Sirius"),
              "Capella": ephem.star("Capella"), "Deneb": ephem.star("Deneb")}  # fmt: skip
    shown = 0
    for name, body in bodies.items():
        body.compute(there)
        if name not in named:
            continue
        wanted = map_place(float(body.alt), float(body.az))
        assert (named[name].x, named[name].y) == pytest.approx(wanted, abs=0.004), name
        shown += 1
    assert (shown >= 4 and named["Sirius"].x > 0) or named["Sirius"].y < 0


def test_a_roof_hides_on_the_map_too_and_the_edge_is_the_roofs():
    open_sky = sky(desk())
    points = ((0, 0), (90, 0), (91, 60), (359, 60))
    wall = tuple(SkylinePoint(azimuth_deg=a, altitude_deg=h) for a, h in points)
    walled = desk(COMMON.model_copy(update={"skyline": wall, "id": 99}))
    behind = sky(walled)
    assert len(behind.stars) < len(open_sky.stars) * 0.7
    south = [dot for dot in behind.stars if dot.y < -0.5]
    assert not south and [dot for dot in open_sky.stars if dot.y < -0.5]
    edge = np.hypot(*np.array(behind.skyline).T)
    assert edge.max() == pytest.approx(1, abs=1e-3) and edge.min() == pytest.approx(1 / 3, abs=1e-3)


def test_by_day_there_are_no_stars_and_the_sun_is_said():
    one = desk()
    noon = sky(one, one.night.start_utc)
    assert not noon.stars and not noon.named
    assert "never point anything at it" in noon.words
    assert "Sun" in {dot.label for dot in noon.bodies}
    with pytest.raises(OutOfRange, match="at_utc"):
        sky(one, datetime(2027, 3, 13, 20, tzinfo=UTC))


def test_a_card_says_its_time_its_glasses_the_way_and_what_will_be_seen():
    one = desk()
    case = case_of(one)
    items = [PlanItem(id=1, target_key="m31"), PlanItem(id=2, target_key="m13", minutes=25)]
    plan = make_plan(case, items, ROCKER, START, make_prospects(case, one))
    cards = make_cards(case, plan, one)
    assert [card.label.split()[0] for card in cards.cards] == ["M31", "M13"]
    first, second = cards.cards
    block = plan.blocks[0]
    middle = block.starts_utc + (block.ends_utc - block.starts_utc) / 2
    assert first.path.at_utc == first.disc.at_utc == middle
    assert first.word == block.word and "oval" in first.expected
    assert "galaxy, And, magnitude 3.4" in first.detail
    assert first.start_label.endswith("×") and "25 min" in second.when
    assert "Stop before sunrise at 07:3" in cards.footer
    empty = plan.model_copy(update={"blocks": []})
    with pytest.raises(OutOfRange, match="Plan the evening first"):
        make_cards(case, empty, one)
