"""From nothing to a noted observation, as an observer would do it."""

import re

from playwright.sync_api import Page, expect


def fill(page: Page, **values: str) -> None:
    for label, value in values.items():
        page.get_by_role("dialog").get_by_label(re.compile(label.replace("_", " "))).fill(value)


def save(page: Page, name: str = "Save") -> None:
    page.get_by_role("dialog").get_by_role("button", name=name, exact=True).click()


def by_piece(page: Page) -> None:
    """A first telescope typed piece by piece instead of as a box."""
    page.get_by_role("button", name="Put your first telescope on the bench").click()
    page.get_by_role("button", name="Type it piece by piece").click()
    expect(page.get_by_role("dialog", name="New telescope")).to_be_visible()


def type_the_place(page: Page, zone: str, **values: str) -> None:
    """The fields of a place behind its one line, and a zone searched for."""
    dialog = page.get_by_role("dialog")
    field = dialog.get_by_label("Time zone")
    if field.input_value() != zone:  # the browser's own stands there already
        field.fill(zone)
        page.get_by_role("option", name=zone, exact=True).click()
    dialog.get_by_role("button", name="Say more, if you know it").click()
    fill(page, **values)


def put_kit_on_the_bench(page: Page) -> None:
    by_piece(page)
    fill(page, Name="Own tube", Aperture="1300", Focal_length="900")
    save(page)
    expect(page.get_by_text("Allowed: 2600 to 52000 mm for 1300 mm aperture")).to_be_visible()
    fill(page, Aperture="13000")
    save(page)
    expect(page.get_by_text("Allowed: 20 to 2000 mm")).to_have_count(1)  # beside the field alone
    expect(page.get_by_text("aperture_mm")).to_have_count(0)
    fill(page, Aperture="130")
    save(page)
    page.get_by_role("button", name="Add your first eyepiece").click()
    fill(page, Name="Long", Focal_length="25", Apparent="50")
    save(page)
    page.get_by_role("button", name="Add eyepiece").click()
    fill(page, Name="Short", Focal_length="10", Apparent="50")
    save(page)
    page.get_by_role("button", name="Add amplifier").click()
    fill(page, Name="Doubler", Factor="2")
    save(page)


def climb_the_ladder(page: Page) -> None:
    page.get_by_role("link", name="See the ladder").click()
    start = page.get_by_role("option", name="36× 25 mm")
    expect(start).to_have_attribute("aria-selected", "true")
    expect(page.get_by_role("option")).to_have_count(4)
    page.get_by_role("option", name="90× 10 mm").click()
    page.get_by_role("button", name=re.compile("^90× power")).click()
    expect(page.get_by_role("dialog")).to_contain_text("1 × 900 mm ÷ 10 mm = 90.0×")
    page.keyboard.press("Escape")


def choose_a_place(page: Page) -> None:
    page.get_by_role("link", name="Plan").click()
    page.get_by_role("button", name="Choose your place").last.click()
    fill(page, Name_of_the_place="Garden")
    type_the_place(page, "Europe/Berlin", Latitude="91", Longitude="8.1")
    save(page, "Save place")
    expect(page.get_by_text("Allowed: -90 to 90 °")).to_be_visible()
    fill(page, Latitude="48.7")
    save(page, "Save place")
    expect(page.get_by_role("dialog")).to_have_count(0)  # the first place was all it asked for
    expect(page.get_by_role("alert").filter(has_text="The Sun is up")).to_be_visible()


def note_the_moon(page: Page) -> None:
    moon = page.get_by_role("button", name=re.compile("^Moon"))
    expect(moon).to_contain_text("moon, 43 %")
    moon.click()
    page.get_by_role("button", name="Note an observation of Moon").click()
    fill(page, In_your_own_words="Long shadows in the south.")
    page.reload()  # the lid was closed before anything was saved
    expect(page.get_by_label("In your own words")).to_have_value("Long shadows in the south.")
    save(page)
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_from_an_empty_database_to_an_observation_that_survives_a_restart(empty_server, new_page):
    page = new_page(empty_server.url)
    put_kit_on_the_bench(page)
    climb_the_ladder(page)
    choose_a_place(page)
    note_the_moon(page)
    empty_server.stop()
    empty_server.start()
    page.goto(f"{empty_server.url}/journal")
    entry = page.get_by_role("article", name="Moon")
    expect(entry).to_contain_text("17:10")
    expect(entry).to_contain_text("Own tube · 10 mm · 90×")
    entry.get_by_role("button", name="Delete Moon").click()
    expect(page.get_by_text("Nothing written yet")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(entry).to_be_visible()


def test_a_csv_with_a_broken_row_is_reported_mended_and_imported(empty_server, new_page):
    page = new_page(empty_server.url)
    header = "item,name,aperture_mm,focal_length_mm,design,apparent_field_deg\n"
    good = "telescope,Tube,100,900,refractor,\neyepiece,Long,,25,,50\n"
    page.get_by_role("button", name="More: fit, labels, import, export").click()
    page.get_by_text("Import a file").click()
    broken = {"name": "kit.csv", "mimeType": "text/csv"}
    text = header + good.replace("25", "twenty")
    page.get_by_label("Choose a file").set_input_files({**broken, "buffer": text.encode()})
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text(
        "1 of 2 rows are refused"
    )
    row = page.get_by_role("row").filter(has_text="Long")
    expect(row).to_contain_text("focal_length_mm is twenty; allowed is 1.5 to 100 mm")
    expect(page.get_by_role("button", name=re.compile("^Import"))).to_have_count(0)
    page.get_by_label("kit.csv").set_input_files({**broken, "buffer": (header + good).encode()})
    page.get_by_role("button", name="Import 2 items").click()
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("2 added")
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_role("button", name="Tube 100/")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("25 mm Long"))).to_be_visible()


def test_a_deleted_piece_comes_back_and_the_demo_kit_can_be_loaded(empty_server, new_page):
    page = new_page(empty_server.url)
    page.get_by_role("button", name="or load the demo kit instead").click()
    page.get_by_role("button", name=re.compile("Plain 7.5")).click()
    save(page, "Delete")
    expect(page.get_by_role("button", name=re.compile("Plain 7.5"))).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name=re.compile("Plain 7.5")).click()
    save(page, "Duplicate")
    save(page)
    expect(page.get_by_role("button", name=re.compile("Plain 7.5"))).to_have_count(2)
