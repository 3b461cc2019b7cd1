"""Two windows on one evening: what one changes the other shows, and no words are lost."""

import json
import re
import urllib.request

from playwright.sync_api import Page, expect

from .test_first_evening import fill, save
from .test_kit_and_powers import send
from .test_setup import choose_telescope, go_to, open_numbers, read_a_bubble, read_the_air, told


def open_heron(page: Page) -> None:
    page.get_by_role("button", name="Heron 140 140/").click()


def second_tab(page: Page, url: str) -> Page:
    """Another tab of the same browser: it shares what the first one keeps."""
    other = page.context.new_page()
    other.goto(url)
    return other


def test_what_one_window_changes_the_other_shows_at_once(fresh_demo, new_page):
    plan, powers = new_page(f"{fresh_demo.url}/plan"), new_page(f"{fresh_demo.url}/powers")
    tab = second_tab(plan, f"{fresh_demo.url}/setup")
    for page in (plan, powers, tab):
        expect(page.get_by_role("banner")).to_contain_text("Heron 140")
    choose_telescope(fresh_demo, "Wren 85")
    for page in (plan, powers, tab):
        expect(page.get_by_role("banner")).to_contain_text("Wren 85")
    expect(powers.get_by_text(re.compile(r"\d+ rungs, Wren 85"))).to_be_visible()
    go_to(tab, "Stand")
    expect(told(tab)).to_contain_text("spread and lock the tray")
    # the rung one stands on and the running drift are the evening's, not a window's
    powers.get_by_role("option", name="43× 13 mm").click()
    other = new_page(f"{fresh_demo.url}/powers")
    expect(other.get_by_role("option", selected=True)).to_have_attribute("aria-label", "43× 13 mm")
    powers.evaluate("document.activeElement.blur()")
    powers.keyboard.press(" ")
    drift = re.compile("^drift")
    running = [one.get_by_role("banner").get_by_role("button", name=drift) for one in (other, tab)]
    for timer in running:
        expect(timer).to_be_visible()
    expect(running[0]).to_have_text(re.compile("0:0[2-9]|0:[1-5]|[1-9]:"))  # no field in a second
    running[0].click()
    expect(running[1]).to_have_count(0)


def test_a_lost_server_is_told_and_one_that_came_back_is_read_again(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Sun guard")
    open_numbers(page)
    page.get_by_label("Bearing", exact=True).fill("60")
    page.get_by_label("Distance").fill("900")
    expect(told(page)).to_contain_text("Safe")
    fresh_demo.stop()
    # nobody looks after the Sun any more, so nothing is called safe
    expect(page.get_by_text(re.compile("^Safe at"))).to_have_count(0)
    expect(page.get_by_role("alert").filter(has_text="does not answer").first).to_be_visible()
    station = page.get_by_role("main")
    fits = "main => main.scrollHeight <= main.clientHeight"  # the words push nothing off the screen
    assert station.evaluate(fits)
    fresh_demo.start()
    expect(told(page)).to_contain_text("Safe")
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_have_count(0)
    choose_telescope(fresh_demo, "Coot 110")
    expect(page.get_by_role("banner")).to_contain_text("Coot 110")


def test_a_late_save_shows_both_and_asks(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/kit")
    open_heron(page)
    fill(page, Mass_of_the_tube="5")
    tube = json.load(urllib.request.urlopen(f"{fresh_demo.url}/api/kit/telescopes"))[0]
    send(fresh_demo.url, "/kit/telescopes/1", {**tube, "printed_power": 300}, "PUT")
    save(page)
    both = page.get_by_role("alert", name="Changed meanwhile")
    expect(both).to_be_in_viewport(ratio=0.9)
    expect(both.get_by_role("row", name="Largest power on the box 450 300")).to_be_visible()
    expect(both.get_by_role("row", name="Mass of the tube 5 4.6")).to_be_visible()
    both.get_by_role("button", name="Keep mine").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    tube = json.load(urllib.request.urlopen(f"{fresh_demo.url}/api/kit/telescopes"))[0]
    assert (tube["mass_kg"], tube["printed_power"], tube["version"]) == (5, 450, 3)
    open_heron(page)
    fill(page, Mass_of_the_tube="9")
    send(fresh_demo.url, "/kit/telescopes/1", {**tube, "mass_kg": 4}, "PUT")
    save(page)
    page.get_by_role("button", name="Take what is stored").click()
    expect(page.get_by_label("Mass of the tube")).to_have_value("4")
    save(page)
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_a_form_that_stays_open_follows_what_is_stored(fresh_demo, new_page):
    page, other = (new_page(f"{fresh_demo.url}/plan") for _ in range(2))
    for one in (page, other):
        one.get_by_role("button", name="Place", exact=True).click()
        expect(one.get_by_label("Elevation")).to_have_value("420")
    for height in ("333", "334"):  # the second time it is still nobody else's change
        page.get_by_label("Elevation").fill(height)
        page.get_by_role("button", name="Save this place").click()
        expect(other.get_by_label("Elevation")).to_have_value(height)
    expect(page.get_by_label("Elevation")).to_have_value("334")
    other.get_by_label("Elevation").fill("500")
    page.get_by_label("Elevation").fill("335")
    page.get_by_role("button", name="Save this place").click()
    expect(other.get_by_label("Elevation")).to_have_value("500")
    other.get_by_role("button", name="Save this place").click()
    both = other.get_by_role("alert", name="Changed meanwhile")
    expect(both.get_by_role("row", name="Elevation 500 335")).to_be_in_viewport()
    expect(other.get_by_role("banner")).to_be_in_viewport(ratio=1)  # only the form was scrolled


def test_words_outlive_escape_a_reload_and_another_tab(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/journal")
    expect(page.get_by_text("19 notes of 6 evenings")).to_be_visible()
    page.keyboard.press("o")
    fill(page, What_did_you_see="M42", In_your_own_words="A fan of light.")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.reload()
    expect(page.get_by_text("19 notes of 6 evenings")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_text("Not saved yet; kept until you do.")).to_be_visible()
    expect(page.get_by_label("In your own words")).to_have_value("A fan of light.")
    other = second_tab(page, f"{fresh_demo.url}/journal")
    expect(other.get_by_label("In your own words")).to_have_value("A fan of light.")
    fill(other, In_your_own_words="A fan of light, four stars in it.")
    expect(page.get_by_label("In your own words")).to_have_value(re.compile("four stars"))
    save(page)
    expect(page.get_by_text("20 notes of 7 evenings")).to_be_visible()
    expect(other.get_by_text("20 notes of 7 evenings")).to_be_visible()
    page.goto(f"{fresh_demo.url}/kit")
    page.get_by_role("button", name="Add finder").click()
    fill(page, Name="Half typed")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Add finder").click()
    expect(page.get_by_label("Name")).to_have_value("Half typed")
    page.get_by_role("button", name="Start over").click()
    expect(page.get_by_label("Name")).to_have_value("")


def test_feet_and_fahrenheit_reach_words_fields_and_drawings(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Stand")
    open_numbers(page)
    expect(told(page)).to_contain_text("The pivot stands 33 cm high")
    change = {"length_unit": "inch", "temperature_unit": "fahrenheit"}
    send(fresh_demo.url, "/evening", change, "PATCH")
    expect(told(page)).to_contain_text("The pivot stands 1 ft 1 in high")
    expect(page.get_by_text("pivot 13", exact=True)).to_be_visible()
    page.get_by_label("Pivot height").fill("14 in")
    expect(told(page)).to_contain_text("1 ft 2 in high")
    go_to(page, "Cool-down and dew")
    expect(
        page.get_by_text(re.compile(r"3\d °F, \d+ % humidity: nobody measured it"))
    ).to_be_visible()
    read_the_air(page, "50", "60")
    expect(page.get_by_text("air 50.0 °F")).to_be_visible()
    expect(page.get_by_text(re.compile(r"\d+\.\d °F over the dew point"))).to_be_visible()


def test_how_the_screws_sit_is_kept_with_the_finder(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Sun guard")
    open_numbers(page)
    page.get_by_label("Bearing", exact=True).fill("20")
    page.get_by_label("Distance").fill("800")
    told(page).get_by_role("button", name="Use this landmark").click()
    # what was typed is the evening's: another browser finds it
    other = new_page(f"{fresh_demo.url}/setup")
    go_to(other, "Sun guard")
    open_numbers(other)
    expect(other.get_by_label("Bearing", exact=True)).to_have_value("20")
    go_to(page, "Finder")
    page.get_by_role("button", name="Six by thirty").click()
    page.get_by_role("button", name="How its screws sit").click()
    page.get_by_label("From there to the other ring").fill("12,5 cm")
    page.get_by_role("button", name="Keep this with the finder").click()
    expect(page.get_by_text("Not saved yet")).to_have_count(0)
    owned = json.load(urllib.request.urlopen(f"{fresh_demo.url}/api/kit/finders"))
    levers = {one["name"]: one["lever_mm"] for one in owned}
    assert (levers["Six by thirty"], levers["Dot on the Heron"]) == (125, None)
    read_a_bubble(page)
    open_numbers(page)
    page.get_by_label("One division is").fill("20")
    page.get_by_role("button", name="Keep this vial with Rocker base").click()
    expect(page.get_by_role("button", name=re.compile("^Keep this vial"))).to_have_count(0)
    mounts = json.load(urllib.request.urlopen(f"{fresh_demo.url}/api/kit/mounts"))
    rocker = next(one for one in mounts if one["name"] == "Rocker base")
    assert rocker["vial_sensitivity_arcmin"] == 20
