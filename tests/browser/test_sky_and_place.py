"""The plan station: any target told whole, a skyline that hides, the calendar, any moment."""

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import PHONE, WIDE, come_late
from .test_first_evening import fill, save


def about(page: Page, name: str):
    return page.get_by_role("complementary", name=f"About {name}")


def save_place(page: Page) -> None:
    page.get_by_role("button", name="Save this place").click()
    expect(page.get_by_text("The place is kept")).to_be_visible()


def find(page: Page, text: str) -> None:
    field = page.get_by_role("textbox", name="Find a target")
    field.fill(text)
    expect(page.get_by_role("main").locator(".hit").first).to_be_visible()
    field.press("Enter")


def test_anything_of_the_catalogue_is_found_and_told(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    page.keyboard.press("/")
    expect(page.get_by_role("textbox", name="Find a target")).to_be_focused()
    find(page, "NGC 1952")
    crab = about(page, "M1 Crab Nebula")
    expect(crab).to_contain_text("supernova remnant, Tau")
    crab.get_by_role("button", name=re.compile("easy|clear|with care|at the limit")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Crumey 2014")
    page.keyboard.press("Escape")
    find(page, "plato")
    expect(about(page, "Crater Plato")).to_contain_text("crater on the Moon, 101 km")
    find(page, "galaxy leo")
    expect(about(page, "NGC 2903")).to_contain_text("galaxy, Leo")
    page.get_by_role("button", name="See it in the field").click()
    expect(page).to_have_url(re.compile("/powers"))


def test_a_skyline_typed_and_drawn_hides_what_stands_behind_it(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan?tab=place")
    page.get_by_role("button", name="Type the points").click()
    lines = page.get_by_label("Azimuth and altitude in degrees")
    lines.fill("0 5\n150 95")
    page.reload()  # what was typed is a draft, and no save passes over it
    expect(lines).to_have_value("0 5\n150 95")
    page.get_by_role("button", name="Save this place").click()
    expect(page.get_by_text("line 2: 150 95")).to_be_visible()
    expect(page.get_by_text("The place is kept")).to_have_count(0)
    lines.fill("0 5\n120 5\n121 80\n260 80\n261 5")
    page.get_by_role("button", name="Use these points").click()
    expect(
        page.get_by_role("button", name=re.compile("Point 3: azimuth 121°, 80° high"))
    ).to_be_visible()
    point = page.get_by_role("button", name=re.compile("Point 5"))
    point.focus()
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("button", name="Point 5: azimuth 261°, 6° high")).to_be_focused()
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name=re.compile("Point 5"))).to_have_count(0)
    box = page.get_by_role("group", name=re.compile("^Skyline")).bounding_box()
    page.mouse.click(box["x"] + box["width"] * 0.9, box["y"] + box["height"] * 0.8)
    expect(page.get_by_role("button", name=re.compile("Point 5"))).to_have_count(1)
    page.reload()  # what was drawn is a draft until it is saved
    expect(
        page.get_by_role("button", name=re.compile("Point 3: azimuth 121°, 80°"))
    ).to_be_visible()
    save_place(page)
    page.get_by_role("button", name="Tonight", exact=True).click()
    hidden = page.get_by_role("region", name="Not tonight, and why").get_by_role("article")
    expect(hidden.filter(has_text="Saturn")).to_contain_text("behind your skyline")


def test_a_change_of_the_name_keeps_the_skyline(fresh_demo, new_page):
    """The evening's own sheet does not ask about it, and so must not lose it."""
    page = new_page(f"{fresh_demo.url}/plan?tab=place")
    points = page.get_by_role("button", name=re.compile("^Point 6:"))
    expect(points).to_be_visible()
    page.get_by_role("button", name=re.compile("Larkstone Common · dark")).click()
    page.get_by_role("button", name="Change Larkstone Common").click()
    fill(page, Name_of_the_place="Larkstone Green")
    save(page, "Save place")
    expect(page.get_by_role("banner")).to_contain_text("Larkstone Green")
    page.keyboard.press("Escape")
    page.reload()
    expect(page.get_by_role("button", name=re.compile("^Point 13:"))).to_be_visible()


def test_a_place_from_a_file_and_the_glow_of_a_town(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan?tab=place")
    gpx = b'<gpx><wpt lat="47.25" lon="9.5"><ele>700</ele><name>Pass</name></wpt></gpx>'
    chooser = page.get_by_label("Position from a GPX or GeoJSON file")
    chooser.set_input_files(
        {"name": "a.gpx", "mimeType": "application/gpx+xml", "buffer": b"<gpx/>"}
    )
    expect(page.get_by_role("alert").filter(has_text="no points")).to_be_visible()
    chooser.set_input_files({"name": "a.gpx", "mimeType": "application/gpx+xml", "buffer": gpx})
    expect(page.get_by_text("Position: 47.25°, 9.5°")).to_be_visible()
    page.get_by_role("button", name="Add the glow of a town").click()
    width = page.get_by_label("Width").nth(1)
    width.fill("300")
    page.get_by_role("button", name="Save this place").click()
    expect(page.get_by_text("Allowed: 5 to 180 °.")).to_be_visible()
    width.fill("30,5")
    save_place(page)
    page.reload()
    expect(page.get_by_label("Width").nth(1)).to_have_value("30.5")


def test_the_calendar_chooses_the_evening(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan?tab=calendar")
    expect(page.get_by_text("Best 1 to 9 Mar")).to_be_visible()
    facts = page.get_by_role("complementary", name="The chosen night")
    expect(facts).to_contain_text("Colongitude")
    expect(facts).to_contain_text("Europa: shadow on the disc")
    nights = page.get_by_role("list", name="Dark hours of the coming nights")
    nights.get_by_role("button").filter(has_text="Fri 5 Mar").click()
    expect(page.get_by_role("banner")).to_contain_text("Fri 5 Mar")
    expect(facts).to_contain_text("Fri 5 Mar")
    facts.get_by_role("button", name="See its targets").click()
    expect(page.get_by_role("region", name="Later").get_by_role("article").first).to_be_visible()


def test_lists_and_filters_are_honest(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    rows = page.get_by_role("article")
    expect(rows.filter(has_text="M81")).to_have_count(1)
    page.get_by_role("button", name="Bright sky").click()
    expect(rows.filter(has_text="M81")).to_have_count(0)
    page.get_by_role("button", name="First night").click()
    expect(rows.filter(has_text="Moon")).to_have_count(1)
    expect(rows.filter(has_text="galaxy")).to_have_count(0)
    page.reload()  # the list that was chosen stays
    expect(page.get_by_role("button", name="First night")).to_have_class(re.compile("--active"))
    page.get_by_role("button", name="Surprise me").click()
    expect(page.get_by_role("complementary", name=re.compile("^About"))).to_contain_text(
        "Visibility"
    )


def test_what_is_done_with_a_target_stays_where_it_is_when_the_way_comes_late(
    demo_server, new_page
):
    page = new_page(f"{demo_server.url}/plan")
    let_go = come_late(page, "**/path?*")
    find(page, "M35")
    note = page.get_by_role("button", name="Note an observation of M35")
    expect(note).to_be_visible()
    before = note.bounding_box()
    let_go()
    way = page.get_by_role("region", name="How to find it")
    expect(way.get_by_role("img", name=re.compile("^By eye"))).to_be_visible()
    assert note.bounding_box() == before


@pytest.mark.parametrize("size", [WIDE, PHONE])
def test_the_list_stays_where_it_is_when_the_weather_comes_late(demo_server, new_page, size):
    page = new_page(f"{demo_server.url}/practice", size)
    let_go = come_late(page, "**/api/plan/weather")
    page.get_by_role("link", name="Plan").click()
    moon = page.get_by_role("main").get_by_role("button", name=re.compile("^Moon"))
    expect(moon).to_be_visible()
    before = moon.bounding_box()
    let_go()
    expect(page.get_by_role("link", name="Why")).to_be_visible()
    assert moon.bounding_box() == before


def test_a_plan_is_made_moved_and_outlives_the_page(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    page.get_by_role("button", name="Plan the evening").click()
    plan = page.get_by_role("list", name="Blocks of the plan")
    saturn = plan.get_by_role("listitem").filter(has_text="Saturn")
    expect(saturn).to_be_visible()
    find(page, "M35")
    page.get_by_role("button", name="Add to tonight").click()
    way = page.get_by_role("region", name="How to find it")
    expect(way.get_by_role("img", name=re.compile("^By eye: From Elnath a fist"))).to_be_visible()
    expect(way.get_by_role("img", name=re.compile("^Six by thirty, mirrored"))).to_be_visible()
    expect(way.get_by_role("img", name=re.compile("^M35 fills"))).to_be_visible()
    m35 = plan.get_by_role("listitem").filter(has_text="M35")
    expect(m35).to_be_visible()
    expect(page.get_by_role("button", name="Add to tonight")).to_have_count(0)
    page.get_by_role("button", name="M35: five minutes more").click()
    expect(m35).to_contain_text("15 min")
    page.get_by_role("button", name="Pin M35 to its time").click()
    expect(m35.get_by_role("button", name="Pin M35 to its time")).to_have_attribute(
        "aria-pressed", "true"
    )
    before = m35.locator(".time").inner_text()
    page.get_by_role("button", name="Move M35: drag, or arrow keys").focus()
    page.keyboard.press("ArrowDown")
    expect(m35.locator(".time")).not_to_have_text(before)
    page.get_by_role("button", name="Skip Saturn").click()
    left = page.get_by_role("list", name="Left out of the plan")
    expect(left).to_contain_text("Skipped.")
    expect(page.get_by_role("link", name=re.compile("^Planned: .* M35, 15 min"))).to_be_visible()
    page.reload()
    expect(m35).to_contain_text("15 min")
    page.get_by_role("button", name="Take Saturn off the plan").click()
    expect(left).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(left).to_contain_text("Saturn")
    page.goto(f"{fresh_demo.url}/kit")  # it stands on the ribbon of every station, and leads back
    page.get_by_role("link", name=re.compile("^Planned: .* M35")).click()
    expect(about(page, "M35")).to_be_visible()


def test_the_ribbon_tells_the_plan_for_any_moment(demo_server, new_page):
    page = new_page(f"{demo_server.url}/plan")
    expect(page.get_by_text("Directions hold for 17:10, now.")).to_be_visible()
    moment = page.get_by_role("slider", name="Moment of the night")
    moment.focus()
    page.keyboard.press("PageUp")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Directions hold for 18:25.")).to_be_visible()
    expect(page.get_by_role("region", name="Now").get_by_role("article")).not_to_have_count(1)
    for unit in ("inch", "metric"):  # the evening changes, not the night
        with page.expect_response(f"{demo_server.url}/api/evening"):
            page.request.patch(f"{demo_server.url}/api/evening", data={"length_unit": unit})
    page.evaluate("new Promise(requestAnimationFrame)")
    expect(page.get_by_text("Directions hold for 18:25.")).to_be_visible()
    box = moment.bounding_box()
    page.mouse.click(box["x"] + box["width"] * 0.6, box["y"] + 30)
    expect(page.get_by_text(re.compile(r"Directions hold for 0\d:"))).to_be_visible()
    page.get_by_role("button", name="Back to now").click()
    expect(page.get_by_text("Directions hold for 17:10, now.")).to_be_visible()


def test_a_telescope_says_what_it_can_show(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    page.get_by_role("button", name="Wren 85 85/").click()
    page.get_by_role("button", name="What it can show").click()
    shown = page.get_by_role("dialog", name="What it can show")
    expect(shown).to_contain_text("What the Wren 85 can show")
    expect(shown.get_by_role("row", name=re.compile("^M42"))).to_contain_text("easy")
    shown.get_by_role("button", name=re.compile("^13")).click()
    expect(page.get_by_role("dialog").filter(has_text="naked-eye limit")).to_be_visible()
