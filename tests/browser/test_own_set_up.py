"""An own telescope in the south, by keyboard alone, with the lid closed in between."""

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import come_late
from .test_first_evening import by_piece, fill, save, type_the_place
from .test_setup import choose_telescope, go_to, open_numbers, read_the_air, step_state, told


def type_in_the_kit(page: Page) -> None:
    by_piece(page)
    fill(page, Name="Own mirror", Aperture="150", Focal_length="1200")
    page.get_by_role("dialog").get_by_role("radio", name=re.compile("Newtonian")).press("Space")
    save(page)
    page.get_by_role("button", name="Add your first eyepiece").click()
    fill(page, Name="Long", Focal_length="25", Apparent="50")
    save(page)
    page.get_by_role("button", name="Add mount").click()
    fill(page, Name="Own head")
    page.get_by_role("dialog").get_by_role("radio", name="Equatorial").press("Space")
    save(page)


def stand_in_the_south(page: Page) -> None:
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("3")
    page.get_by_role("main").get_by_role("button", name="Choose your place").click()
    fill(page, Name_of_the_place="Own bay")
    type_the_place(page, "Pacific/Auckland", Latitude="-38.9", Longitude="177.5")
    save(page, "Save place")
    expect(page.get_by_role("dialog")).to_have_count(0)
    go_to(page, "Stand")  # the only mount is linked by itself


def test_from_nothing_to_a_pole_in_the_south(empty_server, new_page):
    page = new_page(empty_server.url)
    type_in_the_kit(page)
    stand_in_the_south(page)
    expect(told(page)).to_contain_text(re.compile("Set the pivot|The pivot stands"))
    expect(told(page)).not_to_contain_text("No mount is named")
    go_to(page, "North and pole")
    page.get_by_role("button", name="Polaris").click()
    how = page.get_by_role("region", name="North and pole")
    expect(how.get_by_text("no bright star marks the pole")).to_be_visible()
    page.get_by_role("button", name="Star drift").click()
    expect(page.get_by_text("in the north, with one axis only")).to_be_visible()
    page.get_by_label("Drift to the north").fill("-3")
    expect(told(page)).to_contain_text("Measure, then type both numbers.")
    page.get_by_label("in", exact=True).fill("10")
    expect(told(page)).to_contain_text(
        re.compile(r"Turn the whole mount \d\.\d° counter-clockwise")
    )
    page.get_by_role("button", name="Compass").click()
    expect(page.get_by_text("until the compass reads 158°")).to_be_visible()
    go_to(page, "Finder")
    expect(page.get_by_text("No finder sits on Own mirror")).to_be_visible()
    go_to(page, "Minutes in the field")
    expect(told(page)).to_contain_text(re.compile("Improve|Nothing more"))


def test_the_bench_by_keyboard_alone(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Dipper 77")
    page = new_page(f"{fresh_demo.url}/kit")
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_role("heading", level=1, name="Put together")).to_be_visible()
    path = page.get_by_role("navigation", name="Set-up steps")
    path.get_by_role("button", name="Level").press("Enter")
    dial = page.get_by_role("application", name=re.compile("^Bubble"))
    dial.press("ArrowUp")
    expect(told(page)).to_contain_text("Level enough for this mount")
    for _ in range(20):
        dial.press("ArrowUp")
    expect(told(page)).to_contain_text("at least")  # it stops at the wall
    dial.press("3")  # the dial is no text field: the station keys still work
    told(page).get_by_role("button", name="Record as it is").press("Enter")
    expect(step_state(page, "Level")).to_contain_text("noted 17:10")
    path.get_by_role("button", name="Sun guard").press("Enter")
    ring = page.get_by_role("application", name=re.compile("^Bearing"))
    for _ in range(6):
        ring.press("ArrowRight")
    ring.press("ArrowRight")
    page.get_by_role("button", name="across fields or a valley").press("Enter")
    told(page).get_by_role("button", name="Use this landmark").press("Enter")
    expect(step_state(page, "Sun guard")).to_contain_text("done 17:10")
    path.get_by_role("button", name="Finder").press("Enter")
    view = page.get_by_role("application", name=re.compile("^The finder's view"))
    view.press("ArrowLeft")
    expect(told(page)).to_contain_text(re.compile("Loosen|still in the middle"))
    page.reload()  # the lid was closed: the step and what was recorded are still there
    expect(page.get_by_role("heading", level=1, name="Finder")).to_be_visible()
    expect(step_state(page, "Sun guard")).to_contain_text("done 17:10")
    page.keyboard.press("1")
    expect(page).to_have_url(re.compile("/kit$"))


def test_a_server_that_is_gone_is_said_and_comes_back(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Stand")
    open_numbers(page)
    expect(told(page)).to_contain_text("The pivot stands")
    fresh_demo.stop()
    page.get_by_label("Look from").fill("30")
    expect(told(page)).to_contain_text("The application does not answer")
    fresh_demo.start()
    page.get_by_label("Look from").fill("25")
    expect(told(page)).to_contain_text("The pivot stands")
    told(page).get_by_role("button", name="It stands").click()
    expect(step_state(page, "Stand")).to_contain_text("done")


def test_a_tiny_window_can_reach_everything(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup", size=(320, 480))
    go_to(page, "Level")
    told(page).get_by_role("button", name=re.compile("^Next")).scroll_into_view_if_needed()
    assert page.evaluate("document.documentElement.scrollWidth") <= 320
    go_to(page, "Cool-down and dew")
    read_the_air(page, "5", "50")
    expect(page.get_by_text(re.compile("over the dew point"))).to_be_visible()


@pytest.mark.parametrize("goes_to", ["Sun guard", "Stand"])
def test_a_late_record_leaves_one_where_one_went_meanwhile(fresh_demo, new_page, goes_to):
    """The answer is held back until somebody has gone to a step, be it the one they stood at."""
    page = new_page(f"{fresh_demo.url}/setup")
    recording = re.compile(r"/api/setup/landmark\?recorded=true")
    let_go = come_late(page, recording)
    go_to(page, "Sun guard")
    open_numbers(page)
    page.get_by_label("Bearing", exact=True).fill("20")
    page.get_by_label("Distance").fill("800")
    with page.expect_request(recording):
        told(page).get_by_role("button", name="Use this landmark").click()
    go_to(page, goes_to)
    let_go()
    expect(page.get_by_text("Recorded.")).to_be_visible()
    expect(step_state(page, "Sun guard")).not_to_have_text("to do")
    expect(page.get_by_role("heading", level=1, name=goes_to)).to_be_visible()
