"""Fit, labels, upkeep, the ladder under hand and keys, and which way up the disc is."""

import json
import re
import urllib.request
from itertools import pairwise

import pytest
from playwright.sync_api import Page, expect

from tests.asking import CSV

from .conftest import come_late


def send(url: str, path: str, body: object, method: str = "POST") -> dict:
    request = urllib.request.Request(
        f"{url}/api{path}",
        json.dumps(body).encode(),
        {"Content-Type": "application/json"},
        method=method,
    )
    with urllib.request.urlopen(request, timeout=10) as answer:
        return json.load(answer)


def choose_from_more(page: Page, entry: str) -> None:
    page.get_by_role("button", name="More: fit, labels, import, export").click()
    page.get_by_text(entry).click()


def test_what_fits_is_told_with_the_reason(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    choose_from_more(page, "What fits into what")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text(
        "Wide 30 has a 2 in barrel; Mirror diagonal 1.25 takes up to 1.25 in."
    )
    expect(dialog).to_contain_text("Through 2 to 1.25 in: 18 mm")
    expect(dialog).to_contain_text("Wide 30 has a 2 in barrel; Barlow 1.8× takes up to 1.25 in.")


def test_a_label_is_checked_with_an_easy_sum(demo_server, new_page):
    """In tonight's telescope, though that is known only after the dialog is open."""
    page = new_page(f"{demo_server.url}/practice")
    let_go = come_late(page, "**/api/evening")
    page.goto(f"{demo_server.url}/kit")
    choose_from_more(page, "Check a label")
    expect(page.get_by_role("dialog", name="Check a label")).to_be_visible()
    let_go()
    page.get_by_label("The printed number").fill("0")
    page.get_by_label("Eyepiece", exact=True).fill("7.5")
    page.get_by_role("button", name="Check it").click()
    expect(page.get_by_text("Allowed: 1 to 5000 ×").first).to_be_visible()
    page.get_by_label("The printed number").fill("150")
    page.get_by_role("button", name="Check it").click()
    verdict = page.get_by_role("status").filter(has_text="Not in Heron 140")
    expect(verdict).to_contain_text("it gives 101×, not 150×")
    expect(verdict).to_contain_text("760 mm ÷ 7.5 mm = 101.3×")
    expect(verdict).to_contain_text("100 times 7.5 mm is 750 mm")
    expect(verdict).to_contain_text("an eyepiece of 5.1 mm")


def test_a_due_task_is_done_and_gone(empty_server, new_page):
    page = new_page(empty_server.url)
    page.get_by_role("button", name="or load the demo kit instead").click()
    page.get_by_role("button", name="Dot on the Heron: battery").click()
    upkeep = page.get_by_role("region", name="Upkeep")
    expect(upkeep).to_contain_text("CR2032 button cell")
    upkeep.get_by_role("button", name="Done today").click()
    expect(upkeep).to_contain_text("Not due. Last 2027-02-13")
    page.keyboard.press("Escape")
    expect(page.get_by_text("Dot on the Heron: battery")).to_have_count(0)
    expect(page.get_by_text("Front foil for the Wren: inspection")).to_be_visible()


def test_the_ladder_by_keys_and_by_hand(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/powers")
    selected = page.get_by_role("option", selected=True)
    ladder = page.get_by_role("listbox", name="Ladder of powers")
    expect(selected).to_have_attribute("aria-label", "25× 30 mm")
    ladder.focus()
    page.keyboard.press("End")
    expect(selected).to_have_attribute("aria-label", "380× 5 mm + 2.5×")
    page.keyboard.press("Home")
    expect(selected).to_have_attribute("aria-label", "25× 30 mm")
    low = page.get_by_role("option", name="42× 18 mm").bounding_box()
    high = page.get_by_role("option", name="182×").bounding_box()
    page.mouse.move(low["x"] + 80, low["y"] + low["height"] / 2)
    page.mouse.down()
    page.mouse.move(high["x"] + 80, high["y"] + high["height"] / 2, steps=6)
    page.mouse.up()
    expect(selected).to_have_attribute("aria-label", re.compile("^182×"))
    expect(page.get_by_role("button", name=re.compile("^about 182× power"))).to_be_visible()
    expect(page.locator(".struck")).to_have_text("box: 450×")
    page.keyboard.press("Home")


@pytest.mark.parametrize(
    ("telescope", "words", "mirrored"),
    [
        ("Heron 140", "Turned clockwise by 118°, not mirrored", False),
        ("Wren 85", "Mirrored left-right, upright", True),
        ("Coot 110", "Mirrored left-right, upright", True),
        ("Dipper 77", "On the other side of the mount it stands the other way round", False),
    ],
)
def test_the_disc_is_turned_and_mirrored_by_each_glass(
    fresh_demo, new_page, telescope, words, mirrored
):
    url = fresh_demo.url
    owned = json.load(urllib.request.urlopen(f"{url}/api/kit/telescopes"))
    number = next(one["id"] for one in owned if one["name"] == telescope)
    send(url, "/evening", {"telescope_id": number}, "PATCH")
    page = new_page(f"{url}/powers")
    expect(page.get_by_text(words)).to_be_visible()
    assert is_clockwise(page) is not mirrored
    use = "mirrored" if mirrored else "turned" if telescope == "Heron 140" else "correct"
    expect(
        page.get_by_role("button", name=re.compile(f"{use}.*use this side", re.I))
    ).to_be_visible()
    page.get_by_role("button", name=re.compile("^Correct")).click()
    expect(page.get_by_text("up is toward the zenith")).to_be_visible()
    assert is_clockwise(page)
    page.get_by_role("button", name=re.compile("^Mirrored")).click()
    expect(page.get_by_text("left and right are swapped")).to_be_visible()
    assert not is_clockwise(page)


def is_clockwise(page: Page) -> bool:
    """Whether west follows north clockwise on the drawn disc, as it does to the naked eye."""
    disc = page.get_by_role("img", name=re.compile("Moon fills")).bounding_box()
    middle = (disc["x"] + disc["width"] / 2, disc["y"] + disc["height"] / 2)
    north, west = (
        page.locator(".disc .point", has_text=letter).bounding_box() for letter in ("N", "W")
    )
    (nx, ny), (wx, wy) = (
        (box["x"] + box["width"] / 2 - middle[0], middle[1] - box["y"] - box["height"] / 2)
        for box in (north, west)
    )
    return nx * wy - ny * wx < 0


def test_another_target_beside_another_rung(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/powers")
    page.get_by_role("combobox", name="In the view").fill("M31")
    page.get_by_role("option", name="M31 Andromeda Galaxy").click()
    expect(page.get_by_text("is larger than the field").first).to_be_visible()
    page.get_by_role("button", name="Set beside").click()
    page.get_by_role("option", name="58× 13 mm").click()
    expect(page.locator("figcaption")).to_have_text(["13 mm", "30 mm"])
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save ladder as a picture").click()
        page.get_by_text("as SVG").click()
    assert saved.value.suggested_filename == "ladder.svg"
    text = saved.value.path().read_text("utf-8")
    assert text.startswith("<svg") and "13 mm" in text
    saved = []
    page.on("download", lambda one: saved.append(one))
    with page.expect_event("download", lambda one: one.suggested_filename == "view-2.png"):
        page.get_by_role("button", name="Save view as a picture").click()
        page.get_by_text("as PNG").last.click()
    assert [one.suggested_filename for one in saved] == ["view.png", "view-2.png"]
    assert all(one.path().read_bytes()[:4] == b"\x89PNG" for one in saved)


def test_case_table_and_comparison(demo_server, new_page):
    page = new_page(f"{demo_server.url}/powers")
    page.get_by_role("button", name="Case for tonight").click()
    taken = page.get_by_role("heading", name="Take 30 mm, 18 mm, 13 mm")
    expect(taken).to_contain_text("and Barlow 1.8× and Telecentric 2.5×")
    page.get_by_role("button", name="5 mm", exact=True).click()
    expect(page.get_by_text("None of these gives a power")).to_be_visible()  # 152× in air for 120×
    page.get_by_role("button", name="7.5 mm", exact=True).click()
    expect(page.get_by_text("percent nearer to a wished power")).to_be_visible()
    page.get_by_role("button", name="Table").click()
    page.get_by_role("columnheader", name="Power ×").get_by_role("button").click()
    expect(page.get_by_role("row").nth(1)).to_contain_text("5 mm + 2.5×")
    page.get_by_role("button", name=re.compile("^Shadow none of 5 mm:")).click()
    expect(page.get_by_role("dialog")).to_contain_text("0.290 × ")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Compare").click()
    compared = page.get_by_role("row").filter(has_text="30 mm")
    expect(compared.first).to_contain_text("does not fit")
    expect(page.get_by_role("row", name=re.compile("^18 mm \\+ 1.8×"))).to_contain_text("56×")
    page.get_by_role("button", name=re.compile("^True field .* of 18 mm in Wren 85")).click()
    expect(page.get_by_role("dialog")).to_contain_text("60° ÷ 31.11")  # 560 ÷ 18
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Ladder", exact=True).click()


def test_two_hundred_eyepieces_never_overlap(empty_server, new_page):
    url = empty_server.url
    tube = {"name": "T", "aperture_mm": 200, "focal_length_mm": 2000, "design": "newtonian"}
    send(url, "/kit/telescopes", tube)
    rows = ["item,name,focal_length_mm,apparent_field_deg,factor"]
    rows += [f"eyepiece,E{n},{3 + n * 0.18:.2f},60," for n in range(200)]
    rows += [f"amplifier,A{n},,,{1.2 + n * 0.2:.1f}" for n in range(10)]
    request = urllib.request.Request(f"{url}/api/kit/import", "\n".join(rows).encode(), CSV)
    assert json.load(urllib.request.urlopen(request))["applied"]
    page = new_page(f"{url}/powers")
    expect(page.get_by_text("2200 rungs, T")).to_be_visible()
    boxes = page.evaluate(
        """() => [...document.querySelectorAll('.combination')].map(e => e.getBoundingClientRect())
            .map(({ top, bottom }) => [top, bottom]).sort((a, b) => a[0] - b[0])"""
    )
    assert len(boxes) > 15
    assert all(lower[0] >= upper[1] - 3 for upper, lower in pairwise(boxes))
    page.get_by_role("listbox", name="Ladder of powers").focus()
    before = page.get_by_role("option", selected=True).get_attribute("aria-label")
    page.keyboard.press("PageUp")
    expect(page.get_by_role("option", selected=True)).not_to_have_attribute("aria-label", before)
