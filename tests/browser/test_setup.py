"""The set-up bench by hand, by keys and by live instruments, for each kind of mount."""

import json
import re
import urllib.request
from functools import partial

from playwright.sync_api import Page, expect

from tests.drilling import answer_the_sun_drill

from .conftest import PHONE, Server
from .measuring import assert_red_alone
from .test_kit_and_powers import send


def choose_telescope(server: Server, name: str) -> None:
    owned = json.load(urllib.request.urlopen(f"{server.url}/api/kit/telescopes"))
    number = next(one["id"] for one in owned if one["name"] == name)
    choice = json.load(urllib.request.urlopen(f"{server.url}/api/evening"))["choice"]
    send(server.url, "/evening", {**choice, "telescope_id": number}, "PATCH")


def go_to(page: Page, step: str) -> None:
    page.get_by_role("navigation", name="Set-up steps").get_by_role("button", name=step).click()
    expect(page.get_by_role("heading", level=1, name=step)).to_be_visible()


def step_state(page: Page, step: str):
    path = page.get_by_role("navigation", name="Set-up steps")
    return path.get_by_role("button", name=step).locator(".state")


def read_a_bubble(page: Page) -> None:
    """On a mount pushed by hand one look would do."""
    go_to(page, "Level")
    page.get_by_role("button", name="Read a bubble instead").click()


def open_numbers(page: Page) -> None:
    page.get_by_role("button", name="Numbers, if you have them").click()


def read_the_air(page: Page, air: str, humidity: str) -> None:
    """Say what a thermometer and a hygrometer show, instead of the simulated service."""
    page.get_by_role("combobox", name="Air from").press("Enter")
    page.get_by_role("option", name="a thermometer").click()
    page.get_by_label("Air", exact=True).fill(air)
    page.get_by_label("Humidity").fill(humidity)


def told(page: Page):
    return page.get_by_role("complementary", name="What to do now")


def click_at(page: Page, name: re.Pattern, right: float, up: float, radius_share: float) -> None:
    """Point at a round dial: right and up in radii, the radius a share of half the height."""
    box = page.get_by_role("application", name=name).bounding_box()
    half = min(box["width"], box["height"]) / 2 * radius_share
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.click(middle[0] + right * half, middle[1] - up * half)


def put_together(page: Page) -> None:
    """Card by card, in the order of the hands, until it says that it is together."""
    count = page.get_by_role("list", name="Hand movements").get_by_role("button").count()
    for number in range(1, count + 1):
        expect(page.get_by_text(re.compile(f"^{number} of {count}: "))).to_be_visible()
        page.get_by_role("button", name=re.compile("^Done")).click()
    expect(step_state(page, "Put together")).to_contain_text("done 17:10")


BUBBLE = re.compile("^Bubble")
FINDER = re.compile("^The finder's view")
BEARING = re.compile("^Bearing of the landmark")


def stand_and_level(page: Page) -> None:
    told(page).get_by_role("button", name="It stands").click()
    expect(step_state(page, "Stand")).to_contain_text("done 17:10")
    expect(told(page)).to_contain_text("Step back and look: does it stand roughly level?")
    page.get_by_role("button", name="Read a bubble instead").click()
    click_at(page, BUBBLE, 0.0, -0.36, 1.0)  # far away from foot 1, which is low
    expect(told(page)).to_contain_text(re.compile(r"Put (at least )?\d+(\.\d)?\smm under foot 1"))
    told(page).get_by_role("button", name="Done: read it again").click()
    expect(told(page)).to_contain_text("Point at the bubble where you see it.")
    click_at(page, BUBBLE, 0.0, -0.3, 1.0)
    expect(told(page)).to_contain_text("1 turns so far.")
    dial = page.get_by_role("application", name=BUBBLE)
    for _ in range(14):
        dial.press("ArrowUp")
    expect(told(page)).to_contain_text("Level enough for this mount")
    told(page).get_by_role("button", name="Record: level").click()
    expect(page.get_by_role("heading", level=1, name="Balance and fit")).to_be_visible()


def align_the_finder(page: Page) -> None:
    """By the words: a turn that made it worse, one out of the view, then near enough."""
    go_to(page, "Finder")
    page.get_by_role("button", name="Six by thirty").click()
    click_at(page, FINDER, -0.4, 0.3, 0.88)
    expect(told(page)).to_contain_text(re.compile(r"Loosen \d+ o'clock"))
    expect(page.get_by_role("img", name=re.compile("Screws seen from behind"))).to_be_visible()
    told(page).get_by_role("button", name="Turned: look again").click()
    click_at(page, FINDER, -0.6, 0.5, 0.88)  # the wrong way: it says so
    expect(told(page)).to_contain_text("That made it worse")
    page.get_by_role("button", name="Something is wrong").click()
    page.get_by_text("I do not see it in the finder").click()
    expect(told(page)).to_contain_text("Turn every screw back by as much")
    click_at(page, FINDER, 0.02, 0.01, 0.88)  # as near as a finger points
    told(page).get_by_role("button", name="It moved").click()
    expect(told(page)).to_contain_text("Centre it again in the main tube")
    page.get_by_role("button", name="It sits on the mark").click()
    told(page).get_by_role("button", name="Still there").click()


def test_a_hand_pushed_mount_from_the_grass_to_the_nudge(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    path = page.get_by_role("navigation", name="Set-up steps")
    expect(path.get_by_role("button", name="Put together")).to_be_visible()
    expect(path.get_by_role("button", name="North and pole")).to_have_count(0)
    put_together(page)
    expect(told(page)).to_contain_text("The pivot stands 33 cm high")
    stand_and_level(page)
    go_to(page, "Finder")
    expect(page.get_by_text("First choose a safe landmark.")).to_be_visible()
    go_to(page, "Sun guard")
    click_at(page, BEARING, 0.62, 0.25, 1.0)
    open_numbers(page)
    page.get_by_label("Distance").fill("0,8 km")  # a decimal comma, and another unit
    told(page).get_by_role("button", name="Use this landmark").click()
    expect(page.get_by_role("heading", level=1, name="Focus")).to_be_visible()
    align_the_finder(page)
    expect(step_state(page, "Finder")).to_contain_text("done")
    go_to(page, "Minutes in the field")
    expect(told(page)).to_contain_text(re.compile("Nudge by hand at least every"))
    expect(page.get_by_text(re.compile("nudge right and down every")).first).to_be_visible()
    page.get_by_role("button", name="Something moved").click()
    page.get_by_role("button", name=re.compile("^The base was moved")).click()
    expect(step_state(page, "Level")).to_have_text("to do again")
    page.reload()  # the lid closed and opened: the bench stands as it was
    expect(page.get_by_role("heading", level=1, name="Minutes in the field")).to_be_visible()
    expect(step_state(page, "Finder")).to_contain_text("done")
    ribbon = page.get_by_role("contentinfo", name="Evening ribbon")
    mark = ribbon.get_by_role("link", name=re.compile("^Set-up"))
    expect(mark).to_have_attribute("aria-label", re.compile("Finder 17:10"))


def test_an_equatorial_mount_and_what_to_improve_first(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Dipper 77")
    page = new_page(f"{fresh_demo.url}/setup")
    path = page.get_by_role("navigation", name="Set-up steps")
    expect(path.get_by_role("button", name="Level")).to_be_visible()
    expect(path.get_by_role("button", name="Power on")).to_have_count(0)
    go_to(page, "North and pole")
    page.get_by_role("button", name="Polaris").click()
    expect(page.get_by_text("Polaris stands 0.21° east of true north")).to_be_visible()
    page.get_by_role("button", name="Landmark").click()
    expect(told(page)).to_contain_text("Measure, then type both numbers.")
    page.get_by_label("True bearing").fill("90")
    page.get_by_label("The circle reads").fill("86")
    expect(told(page)).to_contain_text("Turn the whole mount 4.0° counter-clockwise")
    page.get_by_label("The circle reads").fill("900")
    expect(page.get_by_text("Allowed: 0 to 360 °")).to_be_visible()
    page.get_by_label("The circle reads").fill("90")
    page.get_by_label("The altitude scale reads").fill("44")
    expect(told(page)).to_contain_text("Move the altitude scale 4.7° up")
    told(page).get_by_role("button", name="Record as it is").click()
    expect(step_state(page, "North and pole")).to_contain_text("noted 17:10")
    go_to(page, "Minutes in the field")
    expect(told(page)).to_contain_text("Improve the height of the polar axis first")
    with page.expect_download() as saved:
        page.get_by_role("link", name="Print the set-up card").click()
    assert saved.value.path().read_bytes()[:5] == b"%PDF-"


def test_slow_motion_people_and_cold_glass(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Wren 85")
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Stand")
    expect(told(page)).to_contain_text("spread and lock the tray")
    people = page.get_by_role("group", name="Who is here")
    people.get_by_role("button", name="Ilse Marrow").click()
    expect(told(page)).not_to_contain_text("Ilse Marrow")
    expect(told(page)).to_contain_text("Tam Okoro-Lind")
    go_to(page, "Balance and fit")
    expect(told(page)).to_contain_text("first put the caps on tube and finder")
    page.get_by_label("Caps are on tube and finder").check()
    page.get_by_role("button", name="The front sinks").click()
    expect(told(page)).to_contain_text("slide it a finger's breadth back")
    open_numbers(page)
    page.get_by_label("Change of load").fill("400")
    expect(told(page)).to_contain_text(re.compile(r"slide it \d+\smm forward"))
    told(page).get_by_role("button", name="It stays put").click()
    expect(step_state(page, "Balance and fit")).to_have_text("done 17:10")
    go_to(page, "Focus")
    page.get_by_text("From glass to glass, if you measure it").click()
    page.get_by_role("combobox", name="Changed to").press("Enter")
    page.get_by_role("option", name="Plain 7.5").click()
    page.get_by_label("Focus moved").fill("-2.5")
    page.get_by_role("button", name="Keep this note").click()
    expect(page.get_by_text("Field 18 → Plain 7.5: 2.5 mm in")).to_be_visible()
    go_to(page, "Cool-down and dew")
    expect(told(page)).to_contain_text(re.compile("Simulated: Put it out now"))
    page.get_by_role("button", name="It came out just now").click()
    expect(told(page)).to_contain_text(re.compile(r"Simulated: Wait about \d+\smin more"))
    expect(step_state(page, "Cool-down and dew")).to_have_text("practice 17:10")
    read_the_air(page, "2", "80")
    expect(told(page)).to_contain_text(re.compile(r"^Wait about \d+\smin more"))
    told(page).get_by_role("button", name="Record it").click()
    expect(step_state(page, "Cool-down and dew")).to_have_text("done 17:10")
    page.get_by_label("Humidity").fill("140")
    expect(page.get_by_text("Allowed: 1 to 100 %")).to_be_visible()


def test_the_sun_cannot_be_clicked_away(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    expect(page.get_by_text(re.compile("The Sun is up until 17:[45]"))).to_be_visible()
    expect(page.get_by_role("banner")).to_contain_text("clock held at 17:10")
    go_to(page, "Sun guard")
    page.get_by_role("button", name="across fields or a valley").click()
    page.get_by_role("button", name="toward the Sun").click()
    expect(told(page)).to_contain_text("Refused: the Sun comes within 0° of it")
    page.get_by_role("button", name="behind you").click()
    expect(told(page)).to_contain_text("Safe at the held 17:10")
    open_numbers(page)
    page.get_by_role("combobox", name="Taken from").press("Enter")
    page.get_by_role("option", name="a map").click()
    page.get_by_label("Bearing", exact=True).fill("240")
    page.get_by_label("Distance").fill("800")
    expect(told(page)).to_contain_text(
        re.compile(r"Refused: the Sun comes within \d° of it at the held 17:10")
    )
    expect(told(page)).to_contain_text("nothing of the Sun outside")
    expect(told(page)).to_contain_text("allowed from 18:00")
    expect(page.get_by_role("button", name="Use this landmark")).to_have_count(0)
    page.get_by_role("combobox", name="Taken from").press("Enter")
    page.get_by_role("option", name="a compass").click()
    expect(told(page)).to_contain_text(re.compile(r"By the map the landmark stands at 24[34]°"))
    expect(page.get_by_role("button", name="Use this landmark")).to_have_count(0)
    for key in ("Enter", "Escape", "Enter"):
        page.keyboard.press(key)
    expect(step_state(page, "Sun guard")).to_have_text("to do")
    go_to(page, "Finder")
    page.get_by_role("button", name="Star", exact=True).click()
    click_at(page, FINDER, 0.0, 0.0, 0.88)
    expect(page.get_by_role("alert").filter(has_text="Refused: the Sun is up")).to_be_visible()
    expect(page.get_by_role("button", name="Finder agrees")).to_have_count(0)


def test_a_safe_landmark_turns_unsafe_by_itself_in_every_window(fresh_demo, new_page):
    """A rehearsed March afternoon, a minute a second: five minutes' work are soon over."""
    fresh_demo.stop()
    fresh_demo.clock = "2027-03-20T12:30+01:00@60"
    fresh_demo.start()
    page, other = (new_page(f"{fresh_demo.url}/setup") for _ in range(2))
    expect(page.get_by_role("banner")).to_contain_text("rehearsal clock 1")
    go_to(page, "Sun guard")
    open_numbers(page)
    page.get_by_label("Bearing", exact=True).fill("20")
    page.get_by_label("Distance").fill("800")
    page.get_by_label("You will work").fill("5")
    told(page).get_by_role("button", name="Use this landmark").click()
    go_to(page, "Sun guard")
    go_to(other, "Finder")
    for one in (page, other):
        expect(step_state(one, "Sun guard")).to_have_text("not safe now")
    expect(page.get_by_role("alert").filter(has_text="Not safe now")).to_contain_text(
        "its time was over at 1"
    )
    expect(other.get_by_text("First choose a safe landmark.")).to_be_visible()


def test_a_solar_session_by_every_check(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Wren 85")
    answer_the_sun_drill(partial(send, fresh_demo.url))
    due = json.load(urllib.request.urlopen(f"{fresh_demo.url}/api/kit/due"))
    task = next(one["upkeep"] for one in due if "foil" in one["item_name"])
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Sun guard")
    page.get_by_role("button", name="Look at the Sun").click()
    words = "inspect it against a bright lamp"
    expect(page.get_by_role("alert").filter(has_text=words)).to_be_visible()
    expect(page.get_by_role("checkbox")).to_have_count(0)
    done = {**task, "id": None, "last_done": "2027-02-13"}
    send(fresh_demo.url, f"/kit/upkeeps/{task['id']}", done, "PUT")
    page.reload()
    page.get_by_role("button", name="Look at the Sun").click()
    expect(page.get_by_role("button", name="7 checks still to do")).to_be_disabled()
    for box in page.get_by_role("checkbox").all():
        box.check()
    page.get_by_role("button", name="Open the solar session").click()
    expect(page.get_by_text("measure its shadow")).to_be_visible()
    page.get_by_role("textbox", name="and wide").fill("98")
    page.get_by_role("textbox", name="The shadow is long").fill("160")
    expect(page.get_by_text("Move the tube so that its shadow shrinks")).to_be_visible()
    page.get_by_role("textbox", name="The shadow is long").fill("98")
    # by a held clock nobody is sent to the eyepiece
    expect(page.get_by_text("this is a rehearsal, do not look")).to_be_visible()
    # something moved: the session is over in every window, and every check is done anew
    other = new_page(f"{fresh_demo.url}/setup")
    other.get_by_role("button", name="Something moved").click()
    other.get_by_role("button", name=re.compile("^The finder or its screws")).click()
    expect(page.get_by_role("button", name="7 checks still to do")).to_be_disabled()
    expect(page.get_by_role("checkbox", checked=True)).to_have_count(0)
    for box in page.get_by_role("checkbox").all():
        box.check()
    page.get_by_role("button", name="Open the solar session").click()
    page.get_by_role("button", name=re.compile("end the session")).click()
    expect(page.get_by_role("button", name="7 checks still to do")).to_be_disabled()


def test_the_bench_in_the_dark_and_on_a_phone(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup", regime="dark")
    for step in ("Put together", "Stand", "Level", "Sun guard", "Focus", "Minutes in the field"):
        go_to(page, step)
        assert_red_alone(page, step)
    phone = new_page(f"{fresh_demo.url}/setup", size=PHONE)
    for step in ("Put together", "Level", "Sun guard", "Finder", "Cool-down and dew"):
        go_to(phone, step)
        assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE[0]
        boxes = phone.evaluate(
            """() => [...document.querySelectorAll('.setup .v-btn, .bench-path .stop')]
                .map(e => e.getBoundingClientRect().height).filter(h => h && h < 47.5)"""
        )
        assert boxes == []


def test_without_place_or_telescope_the_first_step_is_named(empty_server, new_page):
    page = new_page(f"{empty_server.url}/setup")
    expect(page.get_by_role("link", name="Go to the kit")).to_be_visible()
    tube = {"name": "T", "aperture_mm": 80, "focal_length_mm": 600, "design": "refractor"}
    send(empty_server.url, "/kit/telescopes", tube)
    page.reload()
    page.get_by_role("main").get_by_role("button", name="Choose your place").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    place = {"name": "G", "latitude_deg": 50, "longitude_deg": 8, "zone": "Europe/Berlin"}
    send(empty_server.url, "/evening/sites", place)
    page.reload()
    go_to(page, "Stand")
    expect(told(page)).to_contain_text("No mount is named for T")
