"""Tonight's list and the journal: honest words, reasons, zones, notes that can be mended."""

import re

import pytest
from playwright.sync_api import Page, expect

from .test_first_evening import fill, save, type_the_place
from .test_kit_and_powers import send


def choose_place(page: Page, name: str, latitude: str, longitude: str, zone: str) -> None:
    page.get_by_role("button", name=re.compile("Larkstone")).click()
    page.get_by_role("button", name="Add a place").click()
    fill(page, Name_of_the_place=name)
    type_the_place(page, zone, Latitude=latitude, Longitude=longitude)
    save(page, "Save place")
    expect(page.get_by_role("button", name=name, exact=True)).to_be_visible()


def choose_date(page: Page, date: str) -> None:
    field = page.get_by_label("Evening of")
    field.fill(date)
    field.press("Enter")
    expect(page.get_by_role("button", name="Back to tonight")).to_be_visible()


def test_the_far_north_in_june_promises_nothing(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    choose_place(page, "Far north", "75", "20", "UTC")
    choose_date(page, "2027-06-21")
    page.keyboard.press("Escape")
    expect(page.get_by_role("main")).to_contain_text("The Sun does not set.")
    expect(page.get_by_role("main")).to_contain_text("no dark tonight: the Sun only goes down to")
    expect(page.get_by_role("banner")).to_contain_text("no dark tonight")
    reasons = page.get_by_role("region", name="Not tonight, and why")
    expect(reasons.get_by_role("article").filter(has_text="Jupiter")).to_contain_text(
        re.compile("in a dark enough sky|from the Sun|only while the Sun is")
    )


def test_the_other_side_of_the_world_keeps_its_own_clock(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    page.get_by_role("button", name=re.compile("Larkstone")).click()
    page.get_by_role("button", name="Pumice Bay", exact=True).click()
    choose_date(page, "2027-02-13")
    page.keyboard.press("Escape")
    # sunset there is at 20:13 by its own clock, a quarter past seven in the morning in UTC
    expect(page.get_by_role("main")).to_contain_text(re.compile(r"sunset 20:1\d"))
    page.keyboard.press("o")
    stamp = page.get_by_role("dialog").get_by_label(re.compile("^When"))
    expect(stamp).to_have_value("2027-02-14T05:10")  # 17:10 in the middle of Europe
    save(page, "Discard")


@pytest.mark.parametrize("date", ["1600-01-01", "2100-01-01", "soon"])
def test_impossible_dates_change_nothing(demo_server, new_page, date):
    page = new_page(f"{demo_server.url}/plan")
    expect(page.get_by_role("banner")).to_contain_text("Sat 13 Feb")
    page.get_by_role("button", name=re.compile("Sat 13 Feb")).click()
    page.get_by_label("Evening of").fill(date)
    page.get_by_label("Evening of").press("Enter")
    expect(page.get_by_text(re.compile("Allowed:")).first).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("banner")).to_contain_text("Sat 13 Feb")


def test_one_evening_on_and_back(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    page.get_by_role("button", name=re.compile("Sat 13 Feb")).click()
    page.get_by_role("button", name="One evening later").click()
    expect(page.get_by_role("banner")).to_contain_text("Sun 14 Feb")
    expect(page.get_by_role("main")).to_contain_text("Directions hold for 17:")
    page.get_by_role("button", name="One evening earlier").click()
    expect(page.get_by_role("banner")).to_contain_text("Sat 13 Feb")
    page.get_by_role("button", name="Back to tonight").click()
    expect(page.get_by_role("button", name="Back to tonight")).to_have_count(0)


def test_figures_of_tonight_open_with_their_source(demo_server, new_page):
    page = new_page(f"{demo_server.url}/plan")
    page.get_by_role("article").filter(has_text="Saturn").get_by_role("button").click()
    about = page.get_by_role("complementary", name="About Saturn")
    expect(about).to_contain_text("The ring with its dark gap")
    about.get_by_role("button", name="How far across").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("2 · asin( radius ÷ distance )")
    expect(dialog).to_contain_text("60,268 km")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("textbox", name="Find a target").fill("nothing of the kind")
    expect(page.get_by_text("Nothing of that name")).to_be_visible()


def test_a_note_is_mended_refused_and_taken_back(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/journal")
    expect(page.get_by_text("19 notes of 6 evenings")).to_be_visible()
    moon = page.get_by_role("article", name="Moon")
    moon.get_by_role("button", name="Change Moon").click()
    fill(page, Power="0")
    save(page)
    expect(page.get_by_role("dialog").get_by_text(re.compile("^Allowed: .* ×"))).to_be_visible()
    fill(page, Power="50", In_your_own_words="Mended.")
    save(page)
    expect(moon.get_by_text("Mended.")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(moon.get_by_text("Tam found the long row")).to_be_visible()
    expect(moon).to_contain_text("43×")
    moon.get_by_role("button", name="Change Moon").click()
    fill(page, In_your_own_words="Mended.")
    save(page)
    expect(moon.get_by_text("Mended.")).to_be_visible()
    moon.get_by_role("button", name="Delete Moon").click()
    expect(page.get_by_text("18 notes of 6 evenings")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("19 notes of 6 evenings")).to_be_visible()
    expect(moon.get_by_text("Mended.")).to_be_visible()


def test_a_note_takes_the_rung_one_stands_on(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/powers")
    page.get_by_role("option", name="58× 13 mm").click()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("o")
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_label("Telescope")).to_have_value("Heron 140")
    expect(dialog.get_by_label("Power")).to_have_value("58.46")
    fill(page, What_did_you_see="M42")
    dialog.get_by_role("button", name="4 of 5, calm").click()
    save(page)
    page.goto(f"{fresh_demo.url}/journal")
    noted = page.get_by_role("article", name="M42")
    expect(noted).to_contain_text("Heron 140 · 13 mm · 58×")
    expect(noted).to_contain_text("steady 4 of 5")


def test_an_evening_told_by_another_page_arrives(fresh_demo, new_page):
    """What one window changes another reads when it is looked at again."""
    page = new_page(f"{fresh_demo.url}/plan")
    expect(page.get_by_role("banner")).to_contain_text("Heron 140")
    choice = {"site_id": 1, "telescope_id": 2, "observer_id": 1}
    send(fresh_demo.url, "/evening", choice, "PATCH")
    page.evaluate("document.dispatchEvent(new Event('visibilitychange'))")
    expect(page.get_by_role("banner")).to_contain_text("Wren 85")
