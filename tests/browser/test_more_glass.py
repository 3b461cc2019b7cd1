"""Every kind of piece by hand, files through the page, and every way to put the glass together."""

import json
import re

import pytest
from playwright.sync_api import Page, expect

from .test_first_evening import fill, save
from .test_kit_and_powers import choose_from_more, send
from .test_setup import choose_telescope


def add(page: Page, word: str) -> None:
    page.get_by_role("button", name=f"Add {word}").click()


@pytest.mark.parametrize(
    "kinds",
    [
        {
            "mount": ({}, None),
            "diagonal": ({"Light_path": "90"}, ("Light_path", "5", "20 to 250 mm")),
            "finder": ({}, None),
        },
        {
            "filter": ({}, None),
            "amplifier": ({"Factor": "3"}, ("Factor", "9", "1.1 to 6 ×")),
            "eyepiece": (
                {"Focal_length": "9", "Apparent": "52"},
                ("Focal_length", "0", "1.5 to 100 mm"),
            ),
        },
    ],
)
def test_each_kind_is_added_refused_deleted_and_undone(fresh_demo, new_page, kinds):
    page = new_page(f"{fresh_demo.url}/kit")
    for word, (fields, wrong) in kinds.items():
        add(page, word)
        fill(page, Name=f"Own {word}", **fields)
        if wrong:
            field, value, allowed = wrong
            fill(page, **{field: value})
            save(page)
            said = page.get_by_role("dialog").get_by_text(f"Allowed: {allowed}").first
            expect(said).to_be_visible()
            fill(page, **{field: fields[field]})
        save(page)
        piece = page.get_by_role("main").get_by_role("button", name=re.compile(f"Own {word}"))
        expect(piece).to_be_visible()
        piece.click()
        save(page, "Delete")
        expect(piece).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(piece).to_be_visible()


def test_the_kit_goes_out_as_json_and_comes_back(fresh_demo, empty_server, new_page):
    page = new_page(f"{fresh_demo.url}/kit")
    page.get_by_role("button", name="More: fit, labels, import, export").click()
    with page.expect_download() as saved:
        page.get_by_text("Export as JSON").click()
    text = saved.value.path().read_text("utf-8")
    assert json.loads(text)["format"] == "jade-perch-kit"
    other = new_page(empty_server.url)
    other.get_by_role("button", name="More: fit, labels, import, export").click()
    other.get_by_text("Import a file").click()
    file = {"name": "kit.json", "mimeType": "application/json"}
    other.get_by_label("Choose a file").set_input_files(
        {**file, "buffer": text.replace('"focal_length_mm": 760', '"focal_length_mm": -1').encode()}
    )
    status = other.get_by_role("dialog").get_by_role("status")
    expect(status).to_contain_text("1 of 29 rows are refused")
    other.get_by_label("kit.json").set_input_files({**file, "buffer": b'{"items": ['})
    expect(other.get_by_role("alert").first).to_contain_text(re.compile("JSON", re.I))
    other.get_by_label("kit.json").set_input_files({**file, "buffer": text.encode()})
    expect(status).to_contain_text("29 new, 0 changed")
    other.get_by_role("button", name="Import 29 items").click()
    expect(status).to_contain_text("29 added")
    other.get_by_role("button", name="Close").click()
    expect(other.get_by_role("button", name="Heron 140 140/")).to_be_visible()


def test_a_zoom_and_an_old_narrow_barrel(fresh_demo, new_page):
    zoom = {
        "name": "Zoom", "focal_length_mm": 24, "apparent_field_deg": 40,
        "zoom_to_focal_length_mm": 8, "zoom_to_apparent_field_deg": 60,
    }  # fmt: skip
    send(fresh_demo.url, "/kit/eyepieces", zoom)
    narrow = {"name": "Old", "focal_length_mm": 12.5, "apparent_field_deg": 40}
    send(fresh_demo.url, "/kit/eyepieces", {**narrow, "barrel_in": "0.965"})
    page = new_page(f"{fresh_demo.url}/powers")
    for name in ("32× 24 mm zoom", "95× 8 mm zoom", "61× 12.5 mm"):
        expect(page.get_by_role("option", name=name)).to_be_visible()
    page.goto(f"{fresh_demo.url}/kit")
    choose_from_more(page, "What fits into what")
    expect(page.get_by_role("dialog")).to_contain_text("1.25 to 0.965 in: 12.5 mm")


def test_more_ways_stand_on_the_ladder_when_asked(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Wren 85")
    page = new_page(f"{fresh_demo.url}/powers")
    expect(page.get_by_text(re.compile(r"\d+ rungs, Wren 85"))).to_be_visible()
    plain = page.get_by_role("option").count()
    page.get_by_role("button", name="More ways").click()
    page.get_by_label("Barlow ahead of the diagonal too").check()
    expect(page.get_by_role("option", name=re.compile("ahead")).first).to_be_visible()
    assert page.get_by_role("option").count() > plain
    page.get_by_label("Barlow ahead of the diagonal too").uncheck()
    expect(page.get_by_role("option", name=re.compile("ahead"))).to_have_count(0)
    page.keyboard.press("Escape")
    page.get_by_label("Amplifiers", exact=True).uncheck()
    expect(page.get_by_role("option", name=re.compile(r"\+"))).to_have_count(0)


def test_every_figure_of_a_rung_opens(demo_server, new_page):
    page = new_page(f"{demo_server.url}/powers")
    page.get_by_role("button", name="All figures of this rung").click()
    figures = page.get_by_role("button", name=re.compile("How is this worked out"))
    expect(figures).to_have_count(14)
    for n in range(14):
        figures.nth(n).click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("Formula")
        expect(dialog).to_contain_text("Source")
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)


def test_first_light_leaves_the_barlows_in_the_box(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/kit")
    page.get_by_role("button", name="Heron 140 140/").click()
    page.get_by_role("dialog").get_by_label(re.compile("^New to me")).check()
    save(page)
    page.goto(f"{fresh_demo.url}/powers")
    expect(page.get_by_text("First light: amplifiers are off until you want them.")).to_be_visible()
    expect(page.get_by_role("option")).to_have_count(5)
    page.get_by_label("Amplifiers", exact=True).check()
    expect(page.get_by_role("option")).to_have_count(14)


def test_the_largest_power_and_a_barlow_on_the_box(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    choose_from_more(page, "Check a label")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("combobox", name="The box or barrel prints").press("Enter")
    page.get_by_role("option", name="a largest power").click()
    dialog.get_by_label("The printed number").fill("525")
    dialog.get_by_role("button", name="Check it").click()
    verdict = page.get_by_role("status").filter(has_text="The aperture ends at 280×")
    expect(verdict).to_contain_text("2 × 140 mm = 280×")
    dialog.get_by_role("combobox", name="The box or barrel prints").press("Enter")
    page.get_by_role("option", name="the × of a Barlow").click()
    dialog.get_by_label("The printed number").fill("3")
    dialog.get_by_role("button", name="Check it").click()
    expect(page.get_by_role("status").filter(has_text="Useful with")).to_be_visible()
