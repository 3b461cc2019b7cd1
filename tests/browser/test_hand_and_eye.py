"""Keys, fingers, words that stay, light that stays red, slow ways and no way at all."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from .conftest import PHONE, WIDE, come_late, go_to_station
from .measuring import assert_red_alone, prepare
from .test_setup import go_to

MOST_PRESSES = 50
SLOW_WAY = {
    "offline": False, "latency": 400, "downloadThroughput": 50_000, "uploadThroughput": 20_000,
}  # fmt: skip
STARTING = {"Retry-After": "1"}
SLOWED = 4  # a processor a fourth as fast


def noted(page: Page, words: str) -> list[object]:
    """The notes in which some words are found."""
    ask = "async text => (await (await fetch('/api/journal/search?text=' + text)).json()).rows"
    return page.evaluate(ask, words)


class Keys:
    """The keys of somebody without a mouse; what is typed as text is not counted."""

    def __init__(self, page: Page) -> None:
        self.page, self.presses = page, 0

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.presses += 1

    def tab_to(self, one: Locator) -> None:
        expect(one).to_be_visible()
        for _ in range(MOST_PRESSES):
            if one.evaluate("one => one === document.activeElement"):
                return
            self.press("Tab")
        raise AssertionError("never reached by Tab")


def test_from_nothing_to_a_noted_observation_by_few_keys(empty_server, new_page):
    page = new_page(f"{empty_server.url}/")
    keys = Keys(page)
    expect(page.get_by_role("button", name="Put your first telescope")).to_be_focused()
    keys.press("Enter")
    expect(page.get_by_label("Printed on the telescope")).to_be_focused()
    page.keyboard.type("130/900")
    keys.tab_to(page.get_by_role("group", name="It stands on").get_by_role("radio").first)
    keys.press("Space")
    keys.tab_to(page.get_by_label("Numbers on the eyepieces"))
    page.keyboard.type("25, 10")
    keys.press("Enter")
    page.wait_for_url("**/setup")
    expect(page.get_by_role("dialog")).to_have_count(0)
    keys.press("o")
    expect(page.get_by_label("What did you see?")).to_be_focused()
    page.keyboard.type("Moon")
    expect(page.get_by_label("When (time of this device)")).to_be_visible()
    keys.press("Enter")
    expect(page.get_by_text("Noted.")).to_be_visible()
    keys.press("6")
    expect(page.get_by_role("main").get_by_text("Moon").first).to_be_visible()
    assert keys.presses <= MOST_PRESSES


def test_the_keys_come_back_and_live_on(demo_server, new_page):
    page = new_page(f"{demo_server.url}/powers")
    switch = page.get_by_label("Amplifiers").first
    expect(switch).to_be_visible()
    switch.focus()
    page.keyboard.press("1")
    page.wait_for_url("**/kit")
    telescope = page.get_by_role("button", name="Wren 85 85/")
    telescope.focus()
    page.keyboard.press("Space")
    expect(page.get_by_role("dialog").get_by_label("Name")).to_be_focused()
    page.keyboard.press("Escape")
    expect(telescope).to_be_focused()
    page.keyboard.press("Shift+?")
    expect(page.get_by_role("dialog", name="List of keys")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="More: fit").click()
    expect(page.get_by_role("menuitem", name="Check a label")).to_be_visible()
    page.keyboard.press("2")
    assert page.url.endswith("/kit")  # no key fires while a menu is open
    page.keyboard.press("Escape")
    expect(page.get_by_role("menuitem", name="Check a label")).to_have_count(0)
    page.evaluate(
        "() => dispatchEvent(new KeyboardEvent('keydown', { key: 'N', bubbles: true }))"
    )  # as with Caps Lock on
    expect(page.locator("html")).to_have_attribute("data-regime", "dusk")
    page.reload()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="Skip to the station")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("main")).to_be_focused()


def test_rows_of_the_table_are_reached_and_opened_by_keys(demo_server, new_page):
    page = new_page(f"{demo_server.url}/powers")
    page.get_by_role("button", name="Table", exact=True).click()
    rows = page.locator("tbody tr[aria-rowindex]")
    rows.first.focus()
    page.keyboard.press("ArrowDown")
    expect(rows.nth(1)).to_be_focused()
    page.keyboard.press("Space")
    expect(rows.nth(1)).to_have_attribute("aria-current", "true")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    expect(rows.first).to_have_attribute("aria-current", "true")


def test_words_outlive_escape_and_are_brought_back(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/journal")
    page.get_by_role("button", name="Note an observation").click()
    words = page.get_by_label("In your own words")
    words.fill("a thin ring, twice")
    page.keyboard.press("Escape")
    expect(page.get_by_text("Kept as a draft")).to_be_visible()
    page.reload()
    page.get_by_role("button", name="Note an observation").click()
    expect(words).to_have_value("a thin ring, twice")
    page.get_by_role("button", name="Discard").click()
    page.get_by_role("button", name="Undo").click()
    expect(words).to_have_value("a thin ring, twice")
    page.get_by_label("What did you see?").fill("Ring nebula")
    let_go = come_late(page, re.compile(r"/api/journal/observations$"))
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    let_go()
    expect(page.get_by_text("Noted.")).to_be_visible()
    assert len(noted(page, "ring nebula")) == 1


def test_what_is_printed_is_kept_and_passes_over_nothing(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    page.get_by_role("button", name="Add telescope").click()
    printed, focal = (
        page.get_by_label("Printed on the telescope"),
        page.get_by_label("Focal length"),
    )
    printed.fill("105/480")
    printed.press("Tab")
    expect(focal).to_have_value("480")
    focal.fill("482")
    page.keyboard.press("Escape")
    page.reload()
    page.get_by_role("button", name="Add telescope").click()
    expect(printed).to_have_value("105/480")
    expect(page.get_by_text("Understood:")).to_be_visible()
    printed.press("Tab")  # only passed
    expect(focal).to_have_value("482")
    page.get_by_role("button", name="Start over").click()


def test_a_step_keeps_what_was_begun_and_shows_what_was_recorded(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Level")
    page.get_by_role("button", name="Read a bubble instead").click()
    dial = page.get_by_role("application", name=re.compile("^Bubble"))
    box = dial.bounding_box()
    dial.click(position={"x": box["width"] * 0.55, "y": box["height"] * 0.45})
    begun = dial.get_attribute("aria-description")
    assert begun != "No bubble"
    assert dial.bounding_box() == box  # what is pointed at keeps its box
    go_to(page, "Stand")
    go_to(page, "Level")
    page.reload()
    page.get_by_role("button", name="Read a bubble instead").click()
    expect(dial).to_have_attribute("aria-description", begun)
    page.get_by_role("button", name=re.compile("^Record")).click()
    expect(page.get_by_text("Recorded.")).to_be_visible()
    other = new_page(f"{fresh_demo.url}/setup")  # of another browser: no draft of it there
    go_to(other, "Level")
    other.get_by_role("button", name="Read a bubble instead").click()
    expect(other.get_by_role("application", name=re.compile("^Bubble"))).to_have_attribute(
        "aria-description", begun
    )


def test_the_finder_keeps_its_box_while_it_is_pointed_at(fresh_demo, new_page):
    fresh_demo.ask("/api/setup/landmark?recorded=true", {"bearing_deg": 60, "far": "valley"})
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Finder")
    view = page.get_by_role("application", name=re.compile("^The finder"))
    expect(view).to_be_visible()
    box = view.bounding_box()
    for right, down in ((0.3, 0.4), (0.6, 0.55), (0.5, 0.52)):
        view.click(position={"x": box["width"] * right, "y": box["height"] * down})
        expect(page.get_by_role("complementary", name="What to do now")).to_contain_text(
            re.compile("screw|mark|turn|agrees|Look", re.IGNORECASE)
        )
        assert view.bounding_box() == box


def test_a_number_is_taken_as_it_is_written_and_the_wrong_sign_is_named(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    page.get_by_role("button", name="Wren 85 85/").click()
    sheet = page.get_by_role("dialog")
    focal = sheet.get_by_label("Focal length", exact=True)
    focal.fill("56,0 cm")
    focal.blur()
    expect(focal).to_have_value("560")
    focal.fill("560#")
    sheet.get_by_role("button", name="Save").click()
    expect(sheet.get_by_text("“#” is the trouble.")).to_be_visible()
    sheet.get_by_role("button", name="Start over").click()


def test_a_page_without_its_regime_stays_dark(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit", regime="daylight")
    page.route("**/assets/*.js", lambda route: route.abort())
    page.route("**/regime.js", lambda route: route.abort())
    page.goto(f"{demo_server.url}/kit", wait_until="domcontentloaded")
    assert_red_alone(page, "without its regime")


def test_what_would_be_white_is_announced_in_the_dark(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit", regime="dark")
    page.get_by_role("button", name="More: fit").click()
    page.get_by_role("menuitem", name="Import a file").click()
    chooser: list[object] = []
    page.on("filechooser", lambda one: chooser.append(one))
    page.get_by_text("Choose a file …").click()
    ahead = page.get_by_role("dialog", name="White light ahead")
    expect(ahead).to_be_visible()
    assert chooser == []
    ahead.get_by_role("button", name="Stay in the dark").click()
    expect(ahead).to_have_count(0)
    page.get_by_text("Choose a file …").click()
    with page.expect_file_chooser():
        ahead.get_by_role("button", name="Open it all the same").click()


def test_forced_colours_are_red_in_the_dark_and_said(demo_server, browser):
    context = browser.new_context(forced_colors="active", color_scheme="dark")
    context.add_init_script("localStorage.setItem('jade-perch.regime', '\"dark\"')")
    page = context.new_page()
    page.goto(f"{demo_server.url}/powers")
    expect(page.get_by_text("This device forces colours of its own.")).to_be_visible()
    expect(page.get_by_role("listbox", name="Ladder of powers")).to_be_visible()
    assert_red_alone(page, "forced colours")
    context.close()


def test_the_page_says_that_nobody_is_there_and_opens_by_itself(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/kit", regime="dark")
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    fresh_demo.stop()
    expect(page.get_by_role("alert").filter(has_text="does not answer").first).to_be_visible()
    page.reload()
    expect(page.get_by_role("heading", name="The application does not answer")).to_be_visible()
    assert_red_alone(page, "nobody there")
    fresh_demo.start()
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()


@pytest.mark.parametrize("size", [WIDE, PHONE])
def test_a_notice_lies_over_nothing_of_the_station(demo_server, new_page, size):
    page = new_page(f"{demo_server.url}/eyepiece", size, regime="dark")
    page.get_by_role("button", name="White light seen").click()
    notice = page.get_by_text("The eyes begin anew").locator("..")
    station = page.get_by_role("main").bounding_box()
    assert notice.bounding_box()["y"] >= station["y"] + station["height"] - 1
    rail = page.get_by_role("navigation", name="Stations").bounding_box()
    assert (
        notice.bounding_box()["y"] + notice.bounding_box()["height"] <= rail["y"] or size[0] > 700
    )


def test_a_slow_way_shows_that_it_works_and_offers_to_ask_again(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()
    let_go = come_late(page, re.compile("/api/powers/ladders"))
    page.keyboard.press("2")
    expect(page.get_by_role("progressbar", name="Working", exact=True)).to_be_visible()
    again = page.get_by_role("button", name="Ask again")
    expect(again).to_be_visible()
    again.click()
    let_go()
    expect(page.get_by_role("listbox", name="Ladder of powers")).to_be_visible()
    expect(again).to_have_count(0)


def test_a_page_opened_while_it_is_starting_comes_by_itself(demo_server, new_page):
    page = new_page(f"{demo_server.url}/mark.svg")
    started = []
    page.route(
        re.compile("/api/(?!events)"),
        lambda one: one.continue_() if started else one.fulfill(status=503, headers=STARTING),
    )
    page.goto(f"{demo_server.url}/kit")
    expect(page.get_by_role("progressbar", name="Working", exact=True)).to_be_visible()
    expect(page.get_by_text("Choose your place")).to_have_count(0)
    expect(page.get_by_role("alert")).to_have_count(0)
    started.append(True)
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()


def test_an_evening_over_a_slow_way_with_a_slow_processor(fresh_demo, new_page):
    """A phone at the edge of reach: what is asked for shows that it works, and comes."""
    page = new_page(f"{fresh_demo.url}/mark.svg", PHONE)
    way = page.context.new_cdp_session(page)
    way.send("Network.enable")
    way.send("Network.emulateNetworkConditions", SLOW_WAY)
    way.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
    page.goto(f"{fresh_demo.url}/kit", wait_until="commit")
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()
    working = page.get_by_role("progressbar", name="Working", exact=True)
    page.get_by_role("navigation", name="Stations").get_by_text("Powers").tap()
    expect(working).to_be_visible()
    expect(page.get_by_role("listbox", name="Ladder of powers")).to_be_visible()
    page.get_by_role("button", name="Compare").tap()
    expect(working).to_be_visible()
    expect(page.get_by_role("listbox")).to_have_count(2)
    page.get_by_role("navigation", name="Stations").get_by_text("Journal").tap()
    page.get_by_role("button", name="Note an observation").tap()
    page.get_by_label("What did you see?").fill("Saturn")
    page.get_by_role("button", name="Save", exact=True).dblclick()
    expect(page.get_by_text("Noted.")).to_be_visible()
    assert len(noted(page, "saturn")) == 1


def test_a_station_whose_code_does_not_come_says_so(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    page.route("**/assets/JournalStation*.js", lambda route: route.abort())
    page.reload()
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()
    page.keyboard.press("6")
    expect(page.get_by_role("heading", name="Journal could not be loaded")).to_be_visible()
    page.unroute("**/assets/JournalStation*.js")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("button", name="Note an observation")).to_be_visible()


@pytest.mark.parametrize(
    ("code", "station", "part", "sight"),
    [
        ("LessonsTab", "journal", "What it teaches", "What the notes teach"),
        ("LevelStep", "setup", "Level", "Level"),
    ],
)
def test_a_part_whose_code_does_not_come_says_so(demo_server, new_page, code, station, part, sight):
    page = new_page(f"{demo_server.url}/mark.svg")
    page.route(f"**/assets/{code}*.js", lambda route: route.abort())
    page.goto(f"{demo_server.url}/{station}")
    page.get_by_role("button", name=part).first.click()
    expect(page.get_by_role("alert").filter(has_text="could not be loaded")).to_be_visible()
    page.unroute(f"**/assets/{code}*.js")
    page.get_by_role("button", name="Load the page again").click()
    expect(page.get_by_label(sight).first).to_be_visible()


@pytest.mark.parametrize("width", [320, 640])
def test_nothing_is_lost_where_there_is_little_room(demo_server, new_page, width):
    """At 320 px, and at 1280 px enlarged to 200 %: every control within reach."""
    page = new_page(f"{demo_server.url}/kit", (width, 568 if width == 320 else 400))
    for station in ("kit", "powers", "setup", "plan", "eyepiece", "journal"):
        go_to_station(page, station)
        prepare(page)
        assert page.evaluate("measures.cut()") == [], station
