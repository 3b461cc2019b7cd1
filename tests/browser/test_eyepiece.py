"""A whole evening at the eyepiece: step by step, cut off, on two devices, with a child."""

import io
import re
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from jade_perch.store.connection import DATABASE_NAME

from .conftest import PHONE, WIDE
from .measuring import assert_red_alone, pixels

NIGHT = "2027-02-13T20:00+01:00"


def in_the_dark(server, clock=NIGHT):
    """The demo evening of a server of its own, at another moment."""
    server.stop()
    server.clock = clock
    server.start()
    return server


def wish(server, page: Page, *targets: str) -> None:
    keys = {"target_keys": list(targets)}
    assert page.request.post(f"{server.url}/api/plan/schedule", data=keys).status == 204


def instruction(page: Page):
    return page.locator("h1.instruction")


def big_button(page: Page):
    return page.locator("button.main")


def onward(page: Page, by: str = "key") -> None:
    """Press the one large button and wait until it asks for something else."""
    before = instruction(page).inner_text()
    if by == "key":
        page.keyboard.press("Space")
    else:
        big_button(page).click()
    expect(instruction(page).filter(has_text=re.compile(f"^{re.escape(before)}$"))).to_have_count(0)


def to_the_look(page: Page, by: str = "key") -> None:
    """From pointing on to the first look; what has its time later is gone to now."""
    expect(big_button(page)).to_contain_text(re.compile("in the field|Go there"))
    if "Go there" in big_button(page).inner_text():
        onward(page, by)
    expect(big_button(page)).to_contain_text("It is in the field")
    for asked in ("It is in", "Sharp", "Centred"):
        onward(page, by)
        expect(big_button(page)).to_contain_text(asked)
    onward(page, by)


def all_told(page: Page) -> None:
    expect(page.locator("section.eyepiece")).to_have_attribute("data-waiting", "0")


def sitting(server, page: Page) -> dict:
    found: dict = page.request.get(f"{server.url}/api/eyepiece").json()["sitting"]
    return found


@pytest.mark.parametrize(("size", "by"), [(WIDE, "key"), (PHONE, "button")])
def test_a_whole_evening_from_dusk_to_packing_up_on_the_fast_clock(fresh_demo, new_page, size, by):
    server = in_the_dark(fresh_demo, "2027-02-13T18:40+01:00@20")
    page = new_page(f"{server.url}/plan", size)
    wish(server, page, "moon", "jupiter", "m42", "m35")
    page.goto(f"{server.url}/eyepiece")
    expect(page.get_by_text("rehearsal").first).to_be_visible()
    for _ in range(2):
        to_the_look(page, by)
        expect(page.get_by_role("timer")).to_be_visible()
        page.keyboard.press("e") if by == "key" else enough_on_the_phone(page)
        sheet = page.get_by_role("dialog", name="Note an observation")
        sheet.get_by_role("button", name="Seen", exact=True).click()
        sheet.get_by_label("In your own words").fill("Steady now and then.")
        sheet.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Rehearsed: nothing of it is kept.")).to_be_visible()
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.get_by_role("button", name="Close", exact=True).click()  # it lies over the large one
        expect(big_button(page)).to_contain_text("Next target")
        onward(page, by)
    all_told(page)
    page.goto(f"{server.url}/eyepiece?pack=1")
    expect(page.get_by_role("heading", name=re.compile("Packing up: . to go"))).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.click()
        expect(box).to_be_checked()
    expect(page.get_by_role("heading", name="Everything is back")).to_be_visible()
    page.get_by_role("button", name="Close the evening").click()
    expect(page.get_by_role("heading", name="The evening is closed")).to_be_visible()
    expect(page.get_by_text(re.compile("at the eyepiece: 2 targets"))).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("The evening is closed"))).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= size[0]


def enough_on_the_phone(page: Page) -> None:
    page.get_by_role("button", name="People and air").click()
    page.get_by_role("button", name="Enough: write it down").click()


def test_climbing_recentring_and_coming_down_again_says_why(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    wish(server, page, "jupiter")
    page.reload()
    expect(page.get_by_text("1 of 1 · planet")).to_be_visible()
    to_the_look(page)
    rungs = page.get_by_role("img", name=re.compile("^Rungs:"))
    expect(rungs).to_have_attribute("aria-label", re.compile("25 times with 30 mm, here"))
    for asked in ("It is in", "Sharp", "Centred", "More power"):
        onward(page)
        expect(big_button(page)).to_contain_text(asked)
    expect(page.get_by_text(re.compile("^It leaves to the"))).to_be_visible()
    expect(page.get_by_text(re.compile("Push the front of the tube gently"))).to_be_visible()
    page.keyboard.press("s")
    expect(instruction(page)).to_have_text("Back to the 30 mm, 25×.")
    expect(page.get_by_text(re.compile("42×"), exact=False).first).to_be_visible()
    # a finger on another button does not take the keys away from the large one
    page.get_by_role("button", name=re.compile("White light seen")).click()
    page.keyboard.press("Space")
    expect(big_button(page)).to_contain_text("Sharp")
    expect(page.get_by_text("Eyes in the dark for 0 min")).to_be_visible()
    page.keyboard.press("l")
    expect(instruction(page)).to_contain_text("Next: Jupiter. It stands right at")


def test_a_drift_timed_in_the_middle_corrects_the_eyepiece(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    wish(server, page, "jupiter")
    page.reload()
    to_the_look(page)
    page.get_by_role("button", name=re.compile("Time how long it really takes")).click()
    expect(page.get_by_text(re.compile(r"drift \d:\d\d: press"))).to_be_visible()
    began = (datetime.now(UTC) - timedelta(seconds=345)).isoformat()
    with closing(sqlite3.connect(server.data_dir / DATABASE_NAME)) as db, db:
        db.execute("UPDATE usual_choice SET drift_started_at_utc = ?", [began])
    page.reload()  # it was started long enough ago, and runs on through a closed lid
    expect(page.get_by_text(re.compile(r"drift 5:\d\d: press"))).to_be_visible()
    page.get_by_role("button", name="It began in the middle").click()
    expect(page.get_by_text(re.compile("On Jupiter a field of"))).to_be_visible()
    page.get_by_role("button", name="Keep it with Wide 30").click()
    expect(page.get_by_text("Kept with Wide 30.")).to_be_visible()
    kept = page.request.get(f"{server.url}/api/kit/eyepieces").json()
    (stop_mm,) = [one["field_stop_mm"] for one in kept if one["name"] == "Wide 30"]
    # twice 345 s and a little on Jupiter, near the equator: a stop over 36 mm, not half of it
    assert 36 < stop_mm < 46


def test_cut_off_it_goes_on_and_tells_everything_once_when_it_is_back(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    wish(server, page, "jupiter", "m42")
    page.reload()
    to_the_look(page)
    expect(page.get_by_text("Not judged yet")).to_be_visible()
    before = len(page.request.get(f"{server.url}/api/journal/observations").json())
    server.stop()
    onward(page)  # the next rung
    expect(
        page.get_by_text(re.compile(r"No answer from the application. Go on: \d thing"))
    ).to_be_visible()
    onward(page)
    page.keyboard.press("o")
    sheet = page.get_by_role("dialog", name="Note an observation")
    sheet.get_by_label("In your own words").fill("Two belts, written without a server.")
    sheet.get_by_role("button", name="Save").click()
    expect(page.get_by_text(re.compile("Kept here; it is told as soon as"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"\d things wait"))).to_be_visible()
    server.start()
    all_told(page)
    expect(page.get_by_text(re.compile("No answer from the application"))).to_have_count(0)
    spot = sitting(server, page)["spot"]
    assert (spot["kind"], spot["rung_key"]) == ("focus", "e2")
    notes = page.request.get(f"{server.url}/api/journal/observations").json()
    assert len(notes) == before + 1
    assert notes[0]["words"] == "Two belts, written without a server."
    assert notes[0]["observer_name"] == "Ilse Marrow" and notes[0]["glass"] == "18 mm"
    page.reload()  # the lid opened again: the same step
    expect(instruction(page)).to_have_text("Refocus: smallest stars.")


def test_a_note_that_is_refused_later_waits_to_be_corrected(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    expect(big_button(page)).to_be_visible()
    server.stop()
    page.keyboard.press("o")
    sheet = page.get_by_role("dialog", name="Note an observation")
    sheet.get_by_label("In your own words").fill("Written in the dark.")
    sheet.get_by_label("Power").fill("99999")
    sheet.get_by_role("button", name="Save").click()
    expect(page.get_by_text(re.compile("Kept here; it is told as soon as"))).to_be_visible()
    server.start()
    expect(page.get_by_text(re.compile("A note was not taken: .*5000"))).to_be_visible()
    page.get_by_role("button", name="Open it again").click()
    expect(sheet.get_by_label("In your own words")).to_have_value("Written in the dark.")
    sheet.get_by_label("Power").fill("99")
    sheet.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Noted.")).to_be_visible()
    notes = page.request.get(f"{server.url}/api/journal/observations").json()
    assert [one["magnification"] for one in notes if one["words"] == "Written in the dark."] == [99]


TOLD = "**/api/eyepiece/press"


def test_two_devices_stand_at_one_step_and_press_together(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    one = new_page(f"{server.url}/eyepiece")
    wish(server, one, "jupiter", "m42")
    one.reload()
    other = new_page(f"{server.url}/eyepiece", PHONE)
    expect(big_button(one)).to_contain_text("It is in the field")
    expect(big_button(other)).to_contain_text("It is in the field")
    # both are told before somebody goes on: by a held clock none is the later one
    with one.expect_response(TOLD), other.expect_response(TOLD):
        one.keyboard.press("Space")
        other.keyboard.press("Space")
    for page in (one, other):
        expect(instruction(page)).to_have_text("Put in the 30 mm, 25×.")
    onward(one)
    expect(big_button(other)).to_contain_text("Sharp")
    assert sitting(server, one)["spot"]["kind"] == "focus"


def test_a_childs_turn(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece", PHONE)
    wish(server, page, "jupiter")
    page.reload()
    to_the_look(page, "button")
    page.get_by_role("button", name="People and air").click()
    page.get_by_role("button", name=re.compile("^At the eyepiece")).click()
    people = page.get_by_role("dialog").filter(has_text="For guests and children")
    expect(people.get_by_text("Hands behind the back")).to_be_visible()
    people.get_by_role("button", name="Looks now").click()
    expect(people.get_by_role("heading", name="Tam Okoro-Lind looks")).to_be_visible()
    expect(people.get_by_text("A child on a step is held by the hand")).to_be_visible()
    people.get_by_role("button", name="Queues").first.click()
    expect(people.get_by_text(re.compile("Bring it back (every|within)"))).to_be_visible()
    people.get_by_role("button", name="Tam saw white light").click()
    expect(people.get_by_text("Eyes in the dark for 0 min")).to_be_visible()
    assert sitting(server, page)["lights"][0]["person_id"] == 2


def test_a_note_with_a_sketch_and_a_picture(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    expect(big_button(page)).to_be_visible()
    page.keyboard.press("o")
    sheet = page.get_by_role("dialog", name="Note an observation")
    sheet.get_by_role("button", name="Glimpsed").click()
    sheet.get_by_text("Sketch it").click()
    field = sheet.get_by_role("img", name=re.compile("^Sketch of the field"))
    field.scroll_into_view_if_needed()
    box = field.bounding_box()
    assert box is not None
    for start in (0.4, 0.6):
        page.mouse.move(box["x"] + start * box["width"], box["y"] + 0.5 * box["height"])
        page.mouse.down()
        page.mouse.move(box["x"] + 0.5 * box["width"], box["y"] + 0.7 * box["height"], steps=6)
        page.mouse.up()
    expect(field).to_have_attribute("aria-label", "Sketch of the field, 2 strokes")
    sheet.get_by_role("button", name="Undo").click()
    assert_red_alone(page, "sketch")
    lie = {"name": "moon.jpg", "mimeType": "image/jpeg", "buffer": b"<html>"}
    chosen = sheet.get_by_label("Picture file")
    chosen.set_input_files(lie)
    expect(sheet.get_by_text(re.compile("allowed is a JPEG, PNG or WebP picture"))).to_be_visible()
    out = io.BytesIO()
    Image.new("RGB", (60, 40), (40, 200, 255)).save(out, "PNG")
    true = {"name": "moon.png", "mimeType": "image/png", "buffer": out.getvalue()}
    chosen.set_input_files(true)
    expect(sheet.get_by_alt_text("The picture kept with this note")).to_be_visible()
    assert_red_alone(page, "a blue picture")
    page.keyboard.press("Escape")  # nothing drawn is lost
    page.keyboard.press("o")
    expect(field).to_have_attribute("aria-label", "Sketch of the field, 1 strokes")
    sheet.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Noted.")).to_be_visible()
    note = page.request.get(f"{server.url}/api/journal/observations").json()[0]
    assert note["outcome"] == "glimpsed" and len(note["sketch"]) == 1 and note["picture_name"]


def test_the_air_judged_in_five_steps_moves_the_ladder_at_once(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    wish(server, page, "jupiter")
    page.reload()
    rungs = page.get_by_role("img", name=re.compile("^Rungs:"))
    expect(rungs).to_have_attribute("aria-label", re.compile("146 times"))
    page.get_by_role("button", name=re.compile("^Air and sky")).click()
    page.get_by_role("button", name=re.compile("^1 boiling")).click()
    expect(rungs).not_to_have_attribute("aria-label", re.compile("1.. times"))
    faintest = page.get_by_label("Faintest star seen overhead")
    faintest.fill("99")
    page.get_by_role("button", name="Take it").click()
    expect(page.get_by_text("Allowed: 2 to 8 mag")).to_be_visible()
    faintest.fill("4,8")
    page.get_by_role("button", name="Take it").click()
    expect(page.get_by_text(re.compile("Stars to 4.8 mag: about 1"))).to_be_visible()


def test_every_screen_and_dialog_of_the_dark_hours_is_red_alone(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/eyepiece")
    wish(server, page, "jupiter")
    page.reload()
    expect(big_button(page)).to_be_visible()
    assert_red_alone(page, "pointing")
    to_the_look(page)
    assert_red_alone(page, "looking")
    for opener, title in (
        (re.compile("^At the eyepiece"), "At the eyepiece"),
        (re.compile("^Air and sky"), "Air and sky"),
        ("Rehearse", "Rehearse the evening"),
    ):
        page.get_by_role("button", name=opener).click()
        sheet = page.get_by_role("dialog", name=title)
        expect(sheet).to_be_visible()
        assert_red_alone(page, title)
        sheet.get_by_role("button", name="Close").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="Pack up").click()
    expect(page.get_by_role("heading", name=re.compile("Packing up"))).to_be_visible()
    assert_red_alone(page, "packing up")


def test_it_is_dark_by_itself_from_the_first_paint_and_one_key_leads_back(fresh_demo, new_page):
    server = in_the_dark(fresh_demo)
    page = new_page(f"{server.url}/kit", regime="dusk")
    page.route("**/assets/*.js", lambda route: route.abort())
    page.goto(f"{server.url}/eyepiece", wait_until="domcontentloaded")
    assert pixels(page)[..., 1:].max() == 0, "no flash before anything is known"
    page.unroute("**/assets/*.js")
    page.goto(f"{server.url}/eyepiece")
    expect(page.get_by_text("It is dark: red light only")).to_be_visible()
    regime = "document.documentElement.dataset.regime"
    assert page.evaluate(regime) == "dark"
    page.keyboard.press("n")
    assert page.evaluate(regime) == "dusk"
    page.reload()
    expect(big_button(page)).to_be_visible()
    assert page.evaluate(regime) == "dusk", "whoever went back is left there"


def test_by_day_the_sun_stands_before_everything(fresh_demo, new_page):
    server = in_the_dark(fresh_demo, "2027-02-13T12:30+01:00")
    page = new_page(f"{server.url}/eyepiece")
    wish(server, page, "m42")
    page.reload()
    page.request.post(f"{server.url}/api/eyepiece/press", data={
        "key": "a", "what": "go", "spot": {"target_key": "m42", "kind": "point"}})  # fmt: skip
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    assert sitting(server, page)["spot"] is None
    expect(page.locator("html")).to_have_attribute("data-regime", "daylight")


def test_a_rehearsal_by_day_is_marked_and_leaves_nothing_behind(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/eyepiece")
    before = page.request.get(f"{fresh_demo.url}/api/journal/observations").json()
    page.get_by_role("button", name="Rehearse").click()
    sheet = page.get_by_role("dialog", name="Rehearse the evening")
    sheet.get_by_label("How fast").first.fill("500")
    sheet.get_by_role("button", name="Begin").click()
    expect(sheet.get_by_text("Allowed: 1 to 120 times as fast")).to_be_visible()
    sheet.get_by_role("button", name="10×").click()
    sheet.get_by_label("From (time of the place)").fill("20:30")
    sheet.get_by_role("button", name="Begin").click()
    expect(page.get_by_text(re.compile("rehearsal clock 20:3"))).to_be_visible()
    for _ in range(3):
        expect(page.get_by_text("rehearsal", exact=True)).to_be_visible()
        page.keyboard.press("n")
    to_the_look(page)
    page.keyboard.press("o")
    note = page.get_by_role("dialog", name="Note an observation")
    note.get_by_label("In your own words").fill("Only for practice.")
    note.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Rehearsed: nothing of it is kept.")).to_be_visible()
    page.get_by_role("button", name="Rehearse").click()
    page.get_by_role("button", name="End the rehearsal").click()
    expect(page.get_by_text("clock held at 17:10", exact=True)).to_be_visible()
    assert page.request.get(f"{fresh_demo.url}/api/journal/observations").json() == before
    assert sitting(fresh_demo, page)["begun_utc"] is None


def test_the_thread_leads_on_from_every_station(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/journal")
    ribbon = page.get_by_role("contentinfo", name="Evening ribbon")
    ribbon.get_by_role("link", name=re.compile(r"Put the telescope together: 3\d min of")).click()
    expect(page.get_by_role("heading", level=1, name="Put together")).to_be_visible()
    server = in_the_dark(fresh_demo)
    wish(server, page, "jupiter", "m42")
    page.request.post(f"{server.url}/api/eyepiece/press", data={
        "key": "a", "what": "go", "spot": {"target_key": "jupiter", "kind": "point"}})  # fmt: skip
    page.goto(f"{server.url}/kit")
    ribbon.get_by_role("link", name=re.compile("Find M42")).click()
    expect(page).to_have_url(f"{server.url}/eyepiece")


def test_nothing_owned_yet_is_one_step_with_one_button(empty_server, new_page):
    page = new_page(f"{empty_server.url}/eyepiece", PHONE)
    page.get_by_role("link", name=re.compile("Put your first telescope on the bench")).click()
    expect(page).to_have_url(f"{empty_server.url}/kit")
    expect(page.get_by_role("link", name="Say where you observe")).to_be_visible()
