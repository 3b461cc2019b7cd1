"""Live instruments: simulated levels and compasses, steady, faulty, silent."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from .conftest import PHONE, WIDE, come_late
from .test_kit_and_powers import send
from .test_setup import choose_telescope, go_to, open_numbers, read_a_bubble, step_state, told


def open_the_level_again(page: Page) -> None:
    go_to(page, "Level")
    again = page.get_by_role("button", name=re.compile("Open again, which also spoils"))
    expect(again).to_contain_text("north and pole, power on")
    again.click()
    expect(step_state(page, "Power on")).to_have_text("to do again")
    go_to(page, "Power on")
    expect(page.get_by_role("checkbox").first).not_to_be_checked()
    go_to(page, "Level")


def test_nobody_types_into_a_stand_in_that_is_not_known_yet(fresh_demo, new_page):
    """What a late answer would put right must not be typed before: it was lost."""
    choose_telescope(fresh_demo, "Coot 110")
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Level")
    let_go = come_late(page, "**/api/setup/instruments/level")
    page.get_by_role("button", name="Live level").click()
    page.get_by_role("button", name="Set the stand-in").click()
    expect(page.get_by_role("button", name="Hide the stand-in")).to_be_visible()
    field = page.get_by_label("Rise along its axis")
    expect(field).to_have_count(0)
    let_go()
    field.fill("0.5")
    with page.expect_response("**/instruments/level") as answer:
        page.get_by_role("button", name="Set it").click()
    assert answer.value.json()["along_deg"] == 0.5
    expect(field).to_have_value("0.5")


def tick_off_while_it_comes(page: Page, come: Callable[[], None]) -> None:
    """Power on step by step, while what it waited for is answered."""
    go_to(page, "Power on")
    expect(told(page)).to_contain_text("Level the base.")
    waits = page.get_by_text("First north and pole: power comes after.")
    expect(waits).to_be_visible()
    first, *others = page.get_by_role("checkbox").all()
    first.hover()
    page.mouse.down()
    come()  # nothing moves under a finger when what was waited for comes
    expect(waits).to_have_count(0)
    page.mouse.up()
    expect(first).to_be_checked()
    for box in others:
        box.check()
    page.reload()  # what was ticked is not ticked twice
    go_to(page, "Power on")
    for box in page.get_by_role("checkbox").all():
        expect(box).to_be_checked()


def test_a_motorised_mount_by_live_instruments(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Coot 110")
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Level")
    page.get_by_role("button", name="Live level").click()
    live = page.get_by_role("status").filter(has_text="Steady.")
    expect(live).to_be_visible()
    expect(live).to_contain_text("simulated level")
    expect(live).not_to_contain_text("never came")
    expect(told(page)).to_contain_text(re.compile(r"Simulated: Lengthen leg \d by \d"))
    # the hands follow: the stand-in is set level
    page.get_by_role("button", name="Set the stand-in").click()
    page.get_by_label("Rise along its axis").fill("0.02")
    page.get_by_label("Rise 90° clockwise of it").fill("0")
    page.get_by_role("button", name="Set it").click()
    expect(told(page)).to_contain_text("Level enough for this mount")
    expect(page.get_by_role("button", name="Record: level")).to_have_count(0)
    told(page).get_by_role("button", name="Record as practice").click()
    expect(step_state(page, "Level")).to_have_text("practice 17:10")
    page.get_by_role("button", name="Close", exact=True).click()
    go_to(page, "North and pole")
    expect(told(page).get_by_text("until the compass reads 356°")).to_be_visible()
    page.get_by_role("button", name="Use the live compass").click()
    expect(told(page)).to_contain_text(re.compile(r"Turn the whole mount \d\.\d° clockwise"))
    expect(page.get_by_role("button", name="North is set")).to_have_count(0)
    page.get_by_role("button", name="Set the stand-in").click()
    page.get_by_label("Magnetic bearing").fill("356.4")
    page.get_by_role("button", name="Set it").click()
    expect(told(page)).to_contain_text("North is close enough")
    go_to(page, "Power on")
    expect(page.get_by_text("First north and pole: power comes after.")).to_be_visible()
    go_to(page, "North and pole")
    page.get_by_role("button", name="Use the live compass").click()
    is_recorded = come_late(page, re.compile(r"/setup/north\?recorded"))
    told(page).get_by_role("button", name="Record as practice").click()
    tick_off_while_it_comes(page, is_recorded)
    told(page).get_by_role("button", name="Record as practice").click()
    expect(step_state(page, "Power on")).to_have_text("practice 17:10")
    go_to(page, "Minutes in the field")
    expect(told(page)).to_contain_text(re.compile("Improve|Nothing more to gain"))
    expect(told(page)).to_contain_text("Simulated, practice only: the level of the base")
    open_the_level_again(page)


@pytest.mark.parametrize(
    ("fault", "words"),
    [
        ("stops", "Nothing comes from it: check power and cable"),
        ("rubbish", "A line was no reading"),
        ("jumps", "It leapt: waiting whether it stays"),
    ],
)
def test_a_faulty_level_says_so_and_typing_still_works(fresh_demo, new_page, fault, words):
    settings = {"along_deg": 0.5, "fault": fault, "rate_hz": 60}
    send(fresh_demo.url, "/setup/instruments/level", settings, "PUT")
    page = new_page(f"{fresh_demo.url}/setup")
    read_a_bubble(page)
    page.get_by_role("button", name="Live level").click()
    page.wait_for_function(
        "words => document.body.innerText.includes(words)", arg=words, polling=20
    )
    page.get_by_role("button", name="Round vial").click()
    open_numbers(page)
    page.get_by_label("Bubble off by").fill("2.5")
    page.get_by_label("toward", exact=True).fill("180")
    expect(told(page)).to_contain_text("under foot 1")
    page.get_by_label("Bubble off by").fill("7")
    expect(page.get_by_text("the wall of this vial").first).to_be_visible()


# where a button stands at everything that is said of an instrument, by what it is like
WATCH_WHERE_IT_STANDS = """said => {
    const button = [...document.querySelectorAll('button')].find(one => one.innerText === 'Set it')
    window.stands = {}
    new MutationObserver(() => {
        const state = said.className.split(' ').pop()
        const { x, y, width, height } = button.getBoundingClientRect()
        const seen = window.stands[state] ??= new Set()
        seen.add([x, y, width, height].join())
    }).observe(said, { subtree: true, childList: true, characterData: true, attributes: true })
}"""


@pytest.mark.parametrize("size", [WIDE, PHONE])
@pytest.mark.parametrize(
    ("step", "kind", "button"),
    [("Level", "level", "Live level"), ("North and pole", "compass", "Use the live compass")],
)
def test_nothing_to_press_moves_with_what_an_instrument_says(
    fresh_demo, new_page, size, step, kind, button
):
    choose_telescope(fresh_demo, "Coot 110")
    settings = {"bearing_deg": 359.0, "rate_hz": 60, "fault": "rubbish"}
    send(fresh_demo.url, f"/setup/instruments/{kind}", settings, "PUT")
    page = new_page(f"{fresh_demo.url}/setup", size=size)
    go_to(page, step)
    page.get_by_role("button", name=button).click()
    page.get_by_role("button", name="Set the stand-in").click()
    said = page.get_by_role("status").filter(has_text=f"simulated {kind}")
    expect(page.get_by_role("button", name="Set it")).to_be_visible()
    said.evaluate(WATCH_WHERE_IT_STANDS)
    page.wait_for_function("() => window.stands.steady && window.stands.rubbish")
    send(fresh_demo.url, f"/setup/instruments/{kind}", {**settings, "fault": "stops"}, "PUT")
    page.wait_for_function("() => window.stands.silent")
    places = page.evaluate("() => Object.values(window.stands).flatMap(one => [...one])")
    assert len(set(places)) == 1, places


def test_the_live_bubble_draws_every_reading(fresh_demo, new_page):
    """Two seconds of thirty readings a second: each arrives, and the drawing follows each."""
    page = new_page(f"{fresh_demo.url}/setup")
    read_a_bubble(page)
    page.get_by_role("button", name="Live level").click()
    bubble = page.locator(".dial .bubble")
    expect(bubble).to_be_visible()
    drawn = page.evaluate(
        """() => new Promise(done => {
            let numbers = new Set(), places = new Set()
            new MutationObserver(() => {
                const line = document.querySelector('.live .figures')
                const bubble = document.querySelector('.dial .bubble')
                // cut off for a while nothing is shown, and it begins anew
                if (!line || !bubble) [numbers, places] = [new Set(), new Set()]
                else {
                    numbers.add(Number(line.textContent))
                    places.add(bubble.getAttribute('cx'))
                }
                if (numbers.size === 60) done([[...numbers], places.size])
            }).observe(document.body, { characterData: true, childList: true, subtree: true })
        })"""
    )
    numbers, places = drawn
    assert numbers == list(range(numbers[0], numbers[0] + 60))
    assert places > 40  # noise moves it nearly every time
    expect(page.locator(".live")).not_to_contain_text("never came")
