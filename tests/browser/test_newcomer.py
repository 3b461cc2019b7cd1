"""A newcomer with a first telescope: from an empty database to a finder that agrees."""

import re
from collections import Counter

from playwright.sync_api import Page, expect

from .conftest import PHONE
from .test_setup import FINDER, step_state, told

MOST_TAPS, MOST_TYPED = 24, 12
HERE = {"latitude": 48.7, "longitude": 8.1}


class Hands:
    """Taps and typed values, counted; by touch, or by keyboard alone."""

    def __init__(self, page: Page, *, by_key: bool = False):
        self.page, self.by_key, self.count = page, by_key, Counter()

    def press(self, role: str, name, within=None) -> None:
        target = (within or self.page).get_by_role(role, name=name).first
        expect(target).to_be_enabled()
        self.count["taps"] += 1
        if self.by_key and role == "radio":
            target.press("Space")
        elif self.by_key:
            target.press("Enter")
        elif role == "radio":  # the drawing around it is what a finger meets
            target.locator("xpath=..").tap()
        else:
            target.tap()

    def write(self, label, value: str) -> None:
        field = self.page.get_by_label(label)
        self.count["typed"] += 1
        field.fill(value)

    def point(self, right: float, up: float) -> None:
        self.count["taps"] += 1
        view = self.page.get_by_role("application", name=FINDER)
        if self.by_key:
            for key, times in (("ArrowRight", right), ("ArrowUp", up)):
                for _ in range(round(times / 0.02)):
                    view.press(key)
            return
        view.scroll_into_view_if_needed()
        box = view.bounding_box()
        radius = min(box["width"], box["height"]) / 2 * 150 / 170
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.touchscreen.tap(x + right * radius, y - up * radius)


def unpack(hands: Hands) -> None:
    page = hands.page
    hands.press("button", "Put your first telescope on the bench")
    hands.write("Printed on the telescope", "105480")
    expect(page.get_by_text("105 mm aperture, 480 mm focal length, f/4.6")).to_be_visible()
    hands.press("radio", re.compile("^Yoke"))
    hands.press("radio", "Dot sight")
    hands.write("Numbers on the eyepieces", "25, 10")
    hands.write("Number on the Barlow", "2x")
    hands.press("button", "Put it on the bench")


def choose_the_place(hands: Hands) -> None:
    hands.press("button", "Choose your place", hands.page.get_by_role("main"))
    hands.write("Name of the place", "Garden")
    hands.press("button", "Use this device's position")
    expect(hands.page.get_by_text("48.7°, 8.1°")).to_be_visible()
    hands.press("button", "Save place")


def set_up(hands: Hands) -> None:
    page = hands.page
    hands.press("button", "It stands together already")
    hands.press("button", "It stands", told(page))
    hands.press("button", "It looks level")
    page.get_by_label("Caps are on tube and finder").check()
    hands.count["taps"] += 1
    hands.press("button", "It stays")
    hands.press("button", "behind you")
    hands.press("button", "across fields or a valley")
    hands.press("button", "Use this landmark", told(page))
    hands.press("button", "In focus", told(page))


def align(hands: Hands) -> None:
    page = hands.page
    expect(page.get_by_text("First: longest eyepiece in, focused")).to_be_visible()
    hands.point(0.4, 0.3)
    expect(told(page)).to_contain_text("Turn one screw until the dot comes nearest the target")
    hands.press("button", "Turned: look again", told(page))
    hands.press("button", "It sits on the mark")
    expect(told(page)).to_contain_text("Now look through the main tube: is it still in the middle?")
    hands.press("button", "Still there", told(page))
    expect(step_state(page, "Finder")).to_contain_text("done")


def whole_way(page: Page, *, by_key: bool) -> None:
    hands = Hands(page, by_key=by_key)
    unpack(hands)
    choose_the_place(hands)
    set_up(hands)
    align(hands)
    how = "keys" if by_key else "touch"
    print(f"\nFrom nothing to an aligned finder by {how}: {dict(hands.count)}")
    assert hands.count["taps"] <= MOST_TAPS and hands.count["typed"] <= MOST_TYPED


def test_from_the_box_to_an_aligned_finder_by_touch(empty_server, new_page):
    whole_way(new_page(empty_server.url, size=PHONE, here=HERE), by_key=False)


def test_from_the_box_to_an_aligned_finder_by_keyboard(empty_server, new_page):
    whole_way(new_page(empty_server.url, here=HERE), by_key=True)
