"""Every state of the page is walked: names, targets, edges, colours, the place of the keys.

Each state once; all of them in every regime and size by ``make walk``.
"""

import pytest

from . import states
from .conftest import PHONE, WIDE
from .measuring import measured

PARTS = (("kit", "powers"), ("setup",), ("plan", "eyepiece"), ("journal", "practice"))


def test_whatever_opens_over_the_page_is_walked():
    assert states.files_that_open() == {one.file for one in states.OPENINGS}


@pytest.mark.parametrize("stations", PARTS)
def test_every_place_on_a_phone_in_the_dark(demo_server, browser, stations):
    page = states.open_page(browser, demo_server.url, PHONE, "dark")
    found = {place: measured(page, "dark") for place in states.places(page, stations)}
    page.context.close()
    assert found and not {place: each for place, each in found.items() if each}


@pytest.mark.parametrize("kind", [("shell", "drawings"), ("stations",)])
@pytest.mark.parametrize("regime", ["daylight", "dusk"])
def test_whatever_opens(fresh_demo, browser, kind, regime):
    """Each in one of the two lights of day; the dark is walked by ``make walk``."""
    states.lay_out(fresh_demo)
    here = [one for one in states.OPENINGS if one.on_phone is not True and not one.regime]
    mine = [one for one in here if one.file.startswith(kind)]
    found = {}
    page = states.open_page(browser, fresh_demo.url, WIDE, regime)
    for one in mine[regime == "dusk" :: 2]:
        if one.place == states.EMPTY:
            continue
        states.go(page, one.place)
        states.open_it(page, one)
        found[one.file] = measured(page, regime)
        states.close_it(page)
    page.context.close()
    assert found and not {place: each for place, each in found.items() if each}


def test_what_opens_where_nothing_is_stored(empty_server, browser):
    for one in states.OPENINGS:
        if one.place == states.EMPTY:
            page = states.open_page(browser, empty_server.url, PHONE, "dark")
            states.open_it(page, one)
            assert measured(page, "dark") == {}
            page.context.close()
