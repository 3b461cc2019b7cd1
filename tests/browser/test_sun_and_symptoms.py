"""The Sun drill before a solar session, and what is wrong: every symptom to its causes."""

import re

import pytest
from playwright.sync_api import Page, expect

from jade_perch.core.practice.symptoms import TREE
from tests.drilling import UNSAFE

from .conftest import PHONE
from .measuring import assert_red_alone
from .test_practice import HANDS, button, press
from .test_setup import choose_telescope, go_to


def answer_all(page: Page, hand: str, wrong_at: int = 0) -> None:
    """Answer every scene by what is written on its steps."""
    for scene in range(1, 11):
        expect(page.get_by_text(f"Scene {scene} of 10")).to_be_visible()
        steps = page.locator("button.step")
        words = [one.strip() for one in steps.all_inner_texts()]
        unsafe = [n for n, one in enumerate(words) if one in UNSAFE]
        safe = button(page, "All four are safe")
        right = steps.nth(unsafe[0]) if unsafe else safe
        wrong = safe if unsafe else steps.first
        press(page, hand, wrong if scene == wrong_at else right)
        if scene < 10:
            said = page.locator(".question")
            expect(said).to_have_text(re.compile("^No" if scene == wrong_at else "^Right"))
            expect(button(page, "Next scene")).to_be_focused()
            press(page, hand, button(page, "Next scene"))


@pytest.mark.parametrize("hand", HANDS)
def test_no_solar_session_opens_before_the_sun_drill_is_passed_all_right(
    fresh_demo, new_page, hand
):
    choose_telescope(fresh_demo, "Wren 85")
    page = new_page(f"{fresh_demo.url}/setup")
    go_to(page, "Sun guard")
    button(page, "Look at the Sun").click()
    expect(page.get_by_text("The Sun drill comes first")).to_be_visible()
    expect(page.get_by_role("checkbox")).to_have_count(0)
    page.get_by_role("link", name="To the Sun drill").click()
    card = page.get_by_role("article", name="Never the Sun")
    expect(card.get_by_role("button", name="Begin")).to_be_focused()
    page.keyboard.press("Enter")
    answer_all(page, hand, wrong_at=4)
    expect(page.get_by_role("heading", name="Not yet.")).to_be_visible()
    press(page, hand, button(page, "Another round"))
    answer_all(page, hand)
    expect(page.get_by_text("You may open a solar session")).to_be_visible()
    press(page, hand, button(page, "All drills"))
    expect(card).to_contain_text("Passed")
    page.goto(f"{fresh_demo.url}/setup")
    button(page, "Look at the Sun").click()
    expect(page.get_by_text("The Sun drill comes first")).to_have_count(0)


def ways_to_causes() -> dict[str, list[str]]:
    """One way to each cause: the words of the symptom and of every answer."""
    answers = {one.key: one.answers for one in TREE.questions}
    found: dict[str, list[str]] = {}

    def on(key: str, way: list[str]) -> None:
        if key in answers:
            for one in answers[key]:
                on(one.to, [*way, one.words])
        elif key not in found or len(way) < len(found[key]):
            found[key] = way

    for symptom in TREE.symptoms:
        on(symptom.first, [symptom.words])
    return found


def test_every_symptom_leads_to_its_causes(demo_server, new_page):
    page = new_page(f"{demo_server.url}/practice?wrong=")
    causes = {one.key: one for one in TREE.causes}
    for key, way in ways_to_causes().items():
        for words in way:
            button(page, words, exact=True).click()
        expect(page.get_by_role("heading", level=2)).to_have_text(causes[key].cause)
        expect(page.get_by_text(causes[key].cure)).to_be_visible()
        expect(button(page, TREE.places[causes[key].place])).to_be_visible()
        button(page, "Something else").click()
    # where one stands is in the address: kept by a reload, left by going back
    button(page, "It fogged").click()
    button(page, "On the eyepiece").click()
    page.reload()
    expect(page.get_by_role("heading", level=2)).to_have_text(causes["breath"].cause)
    page.go_back()
    expect(page.get_by_role("heading", level=2)).to_have_text("Where does it sit?")


def test_no_cure_uncaps_anything_near_the_sun_also_where_no_place_says_where_it_is(
    demo_server, empty_server, new_page
):
    for server, known in ((demo_server, "The Sun is up"), (empty_server, "is not known here")):
        page = new_page(f"{server.url}/practice?wrong=")
        button(page, "It is all black").click()
        button(page, "One was still on").click()
        told = page.get_by_role("paragraph").filter(has_text=known)
        expect(told).to_contain_text("no solar filter comes off")


def test_stuck_at_the_eyepiece_is_one_key_in_the_dark_also_when_nobody_answers(
    fresh_demo, new_page
):
    page = new_page(f"{fresh_demo.url}/eyepiece", size=PHONE, regime="dark")
    expect(button(page, "Stuck?")).to_be_visible()
    expect(page.locator(".eyepiece")).to_be_visible()
    with page.expect_response("**/api/practice/symptoms"):
        page.reload()
    expect(button(page, "Stuck?")).to_be_visible()
    fresh_demo.stop()
    page.keyboard.press("b")
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="It slides away").click()
    sheet.get_by_role("button", name="Evenly, always the same way").click()
    sheet.get_by_role("button", name="No, I push it").click()
    expect(sheet).to_contain_text("The Earth turns")
    assert_red_alone(page, "stuck")
    page.keyboard.press("Escape")
    expect(sheet).to_have_count(0)
