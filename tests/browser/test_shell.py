"""Keys, light regimes and small screens."""

import re

import pytest
from playwright.sync_api import expect

from .conftest import PHONE, STATIONS, go_to_station
from .measuring import assert_red_alone, pixels


def test_the_dark_regime_is_red_alone(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit", regime="dark")
    for station in STATIONS:
        go_to_station(page, station)
        assert_red_alone(page, station)
    go_to_station(page, "kit")
    page.get_by_role("button", name="Heron 140 140/").click()
    page.get_by_label("Name").select_text()
    assert_red_alone(page, "sheet with selected text")
    page.get_by_role("combobox").first.click()
    expect(page.get_by_role("option").first).to_be_visible()
    assert_red_alone(page, "drop-down")
    page.keyboard.press("Escape")
    page.get_by_label("Aperture").fill("0")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Allowed: 20 to 2000 mm").first).to_be_visible()
    assert_red_alone(page, "error")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()
    assert_red_alone(page, "list of keys")


def test_the_regime_holds_before_the_first_paint(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit", regime="dark")
    page.route("**/assets/*.js", lambda route: route.abort())
    page.goto(f"{demo_server.url}/kit", wait_until="domcontentloaded")
    assert pixels(page)[..., 1:].max() == 0


def test_an_evening_by_keyboard_alone(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/kit")
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()
    page.keyboard.press("2")
    selected = page.get_by_role("option", selected=True)
    expect(selected).to_have_attribute("aria-label", "25× 30 mm")
    page.keyboard.press(".")
    expect(selected).to_have_attribute("aria-label", "42× 18 mm")
    page.keyboard.press(",")
    page.get_by_role("listbox").focus()
    page.keyboard.press("ArrowUp")
    expect(selected).to_have_attribute("aria-label", "42× 18 mm")
    page.keyboard.press("n")
    assert page.evaluate("document.documentElement.dataset.regime") == "dusk"
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("One rung down")
    page.keyboard.press("4")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    assert page.url.endswith("/powers")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name=re.compile("^Stop"))).to_be_visible()
    page.keyboard.press(" ")
    # stopped at once it is refused; where the machine stood still for a second it is a field
    refused = page.get_by_text("allowed is 1 to 86400 s")
    expect(refused.or_(page.get_by_text("is a field of")).first).to_be_visible()


CLOSE_AND_NOTE = """async () => {
  const press = key => document.activeElement.dispatchEvent(
    new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
  press('Escape')
  await new Promise(done => setTimeout(done, 0))
  press('o')
}"""


def test_a_key_counts_while_the_closed_sheet_still_fades(demo_server, new_page):
    page = new_page(f"{demo_server.url}/plan")
    page.get_by_role("button", name=re.compile("Larkstone")).click()
    page.get_by_label("Evening of").focus()  # where nothing fires while the sheet is open
    page.keyboard.press("o")
    assert page.get_by_role("dialog").count() == 1
    page.evaluate(CLOSE_AND_NOTE)
    expect(page.get_by_role("dialog", name="Note an observation")).to_be_visible()
    page.get_by_role("button", name="Discard").click()


def test_finding_and_noting_by_keyboard_alone(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    expect(page.get_by_role("button", name="Heron 140 140/")).to_be_visible()
    page.keyboard.press("/")
    expect(page.get_by_role("textbox", name="Find a target")).to_be_focused()
    page.keyboard.type("jup1")
    assert page.url.split("?")[0].endswith("/plan")
    page.keyboard.press("Backspace")
    expect(page.get_by_role("main").get_by_role("button", name="Jupiter planet")).to_be_visible()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("o")
    expect(page.get_by_label("What did you see?")).to_be_visible()
    page.get_by_label("What did you see?").focus()
    page.keyboard.type("Jupiter n 12")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Noted.")).to_be_visible()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("6")
    change = page.get_by_role("button", name="Change Jupiter n 12")
    change.focus()
    page.keyboard.press("Enter")
    page.get_by_role("dialog").get_by_role("button", name="Delete").press("Enter")
    expect(change).to_have_count(0)


@pytest.mark.parametrize("station", STATIONS)
def test_a_phone_never_scrolls_sideways_and_hits_are_large(demo_server, new_page, station):
    page = new_page(f"{demo_server.url}/{station}", size=PHONE)
    expect(page.get_by_role("heading", level=1).first).to_be_visible()
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= PHONE[0]
    small = page.evaluate(
        """() => [...document.querySelectorAll('header button, nav a, .v-btn')]
            .map(e => [e.textContent.trim(), e.getBoundingClientRect()])
            .filter(([, box]) => box.width && (box.height < 47.5))
            .map(([words, box]) => `${words} ${box.height}`)"""
    )
    assert small == []


def test_a_wrong_date_is_refused_beside_its_field(demo_server, new_page):
    page = new_page(f"{demo_server.url}/plan")
    page.get_by_role("button", name=re.compile("Sat 13 Feb")).click()
    page.get_by_label("Evening of").fill("1600-01-01")
    page.get_by_label("Evening of").press("Enter")
    expect(page.get_by_text("Allowed: 1899-08-03 to 2053-09-29").first).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("Sat 13 Feb"))).to_be_visible()
