"""Practice by pointer, keys and touch: each drill to its end."""

import json
import re
import urllib.request
from functools import partial

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.hands import NUMBER, number

from .conftest import PHONE, WIDE, Server
from .test_kit_and_powers import send
from .test_setup import choose_telescope

HANDS = ["pointer", "keys"]
# minutes that a journey need not wait for
SKIPPING = """(() => {
  const now = performance.now.bind(performance)
  window.skipped_ms = 0
  performance.now = () => now() + window.skipped_ms
})()"""
BASE = 320.0  # how wide the drawing of a view is in its own units


def press(page: Page, hand: str, one: Locator) -> None:
    """Press something with one of the three kinds of hands."""
    if hand == "pointer":
        one.click()
    elif hand == "touch":
        one.tap()
    else:
        one.focus()
        page.keyboard.press("Enter")


def button(page: Page, name: str | re.Pattern[str], **which: object) -> Locator:
    return page.get_by_role("button", name=name, **which)


def begin(server: Server, page: Page, drill: str, **given: object) -> int:
    """Begin a round whose chance is known, and go to it."""
    run = send(server.url, "/practice/runs", {"drill": drill, **given})
    page.goto(f"{server.url}/practice?run={run['id']}")
    expect(page.get_by_role("heading", level=1, name=run["title"])).to_be_visible()
    return run["id"]


def told(server: Server, run: int) -> dict:
    return json.load(urllib.request.urlopen(f"{server.url}/api/practice/runs/{run}"))


def say(page: Page) -> Locator:
    return page.locator(".say")


def made(server: Server, page: Page, run: int, act: object) -> dict:
    """Make one move by hand and return how the round stands once the page shows it."""
    room = page.locator(".room")
    expect(room).to_have_attribute("data-moves", re.compile(r"\d"))
    before = str(room.get_attribute("data-moves"))
    act()
    expect(room).not_to_have_attribute("data-moves", before)
    return told(server, run)


def ask(server: Server, page: Page, run: int, hand: str) -> str:
    one = button(page, re.compile("^Ask the (bench|mentor)"))
    return made(server, page, run, lambda: press(page, hand, one))["say"]


@pytest.mark.parametrize("hand", HANDS)
def test_a_base_is_levelled_by_the_benchs_words(fresh_demo, new_page, hand):
    choose_telescope(fresh_demo, "Dipper 77")
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "level", seed=5)
    steps = told(fresh_demo, run)["scene"]["steps"]
    for _ in range(20):
        expect(page.locator(".level-room")).to_have_attribute("aria-busy", "false")
        words = ask(fresh_demo, page, run, hand)
        if words.startswith("Level enough"):
            break
        foot = re.search(r"(?:foot|leg) (\d)", words)[1]
        press(page, hand, button(page, f"Foot {foot}"))
        left = number(re.search(rf"({NUMBER}) (?:turns?|mm)", words)[1])
        way = "↓" if "lower" in words else "↑"
        for n, size in sorted(enumerate(steps), key=lambda one: -one[1]):
            for _ in range(int(left / size + 1e-6)):
                amount = button(page, re.compile(f"^{way}")).nth(n)
                made(fresh_demo, page, run, partial(press, page, hand, amount))
                left -= size
        made(fresh_demo, page, run, partial(press, page, hand, button(page, "Tap the glass")))
    press(page, hand, button(page, "It is level"))
    expect(page.get_by_role("heading", name=re.compile("^Done"))).to_be_visible()
    expect(page.locator(".sentences li")).to_have_count(3)
    press(page, hand, button(page, re.compile("^Look back at")))
    expect(page.get_by_text(re.compile(r"^foot \d up by")).first).to_be_visible()
    press(page, hand, button(page, "All drills"))
    expect(page.get_by_role("article", name="Level the base")).to_contain_text("1 round, 1 passed")


def push_to_the_middle(server: Server, page: Page, run: int, hand: str) -> None:
    """Push the tube by as much as the target is seen beside the middle, never mind how it turns."""
    view = told(server, run)["scene"]["view"]
    right, up = (-one for one in view["centre"])
    drawing = page.get_by_role("application")
    if hand == "keys":
        small, large = view["nudges_arcmin"]
        drawing.focus()
        for size, keys in ((large, "Shift+"), (small, "")):
            for amount, (more, less) in ((right, ("Right", "Left")), (up, ("Up", "Down"))):
                times = int(abs(amount) / size + (0 if keys else 0.5))
                for _ in range(times):
                    key = f"{keys}Arrow{more if amount > 0 else less}"
                    made(server, page, run, partial(page.keyboard.press, key))
            right, up = (one - np.sign(one) * size * int(abs(one) / size) for one in (right, up))
        return
    box = drawing.bounding_box()
    pixels = min(box["width"], box["height"]) / BASE * 150 / view["radius_arcmin"]
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def swipe() -> None:
        finger = page.context.new_cdp_session(page)
        for kind, far in (("Start", 0.0), ("Move", 0.5), ("Move", 1.0), ("End", None)):
            at = (
                [] if far is None else [{"x": x + far * right * pixels, "y": y - far * up * pixels}]
            )
            finger.send("Input.dispatchTouchEvent", {"type": f"touch{kind}", "touchPoints": at})

    def drag() -> None:
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + right * pixels / 2, y - up * pixels / 2)
        page.mouse.move(x + right * pixels, y - up * pixels)
        page.mouse.up()

    made(server, page, run, swipe if hand == "touch" else drag)


def choose_a_mark(page: Page, hand: str) -> None:
    """Choose what stands far enough away and away from the Sun, by what is written on it."""
    marks = page.get_by_role("group", name="What to align on").get_by_role("button")
    far = []
    for one in marks.all():
        metres, sun = re.search(r"([\d.]+) m, (\d+)°", one.inner_text()).groups()
        far.append(float(metres) if float(sun) >= 30 else 0.0)
    press(page, hand, marks.nth(far.index(max(far))))


def turn_screws(server: Server, page: Page, run: int, hand: str, words: str) -> None:
    """Loosen what the sentence names by as much as it says, then let the others follow."""
    for hour, turns in re.findall(rf"(\d+) o'clock ({NUMBER})", words):
        press(page, hand, button(page, f"{hour} h", exact=True))
        left = number(turns)
        for name, size in (("1", 1.0), ("½", 0.5), ("⅛", 0.125)):
            for _ in range(int(left / size + 1e-6)):
                one = button(page, f"Out {name} turn", exact=True)
                made(server, page, run, partial(press, page, hand, one))
                left -= size
    made(server, page, run, partial(press, page, hand, button(page, "Snug", exact=True)))


def turn_two_screws(server: Server, page: Page, run: int, hand: str) -> None:
    """Turn one screw until the target stands nearest the mark, then the other."""

    def away() -> float:
        return float(np.hypot(*told(server, run)["scene"]["view"]["centre"]))

    def turn(way: str, name: str) -> None:
        one = button(page, f"{way} {name} turn", exact=True)
        made(server, page, run, partial(press, page, hand, one))

    for hour in told(server, run)["scene"]["screw_hours"]:
        press(page, hand, button(page, f"{hour} h", exact=True))
        for name in ("1", "½", "⅛"):
            for way, back in (("Out", "In"), ("In", "Out")):
                before = away()
                turn(way, name)
                while away() < before:
                    before = away()
                    turn(way, name)
                turn(back, name)


LOOKS = {"main": "Main tube", "finder": "Finder", "along": "Along the tube"}


def follow(server: Server, page: Page, run: int, hand: str, words: str) -> None:
    """Do what a mentor's sentence says."""
    act = partial(made, server, page, run)
    if words.startswith("Choose"):
        if button(page, "Clamps closed: open them").count():
            act(partial(press, page, hand, button(page, "Clamps closed: open them")))
        act(partial(choose_a_mark, page, hand))
    elif "the clamps" in words:
        is_open = words.startswith("Close")
        name = "Clamps open: close them" if is_open else "Clamps closed: open them"
        act(partial(press, page, hand, button(page, name)))
    elif words.startswith("Push"):
        push_to_the_middle(server, page, run, hand)
    elif "spiral" in words:
        way = re.search(r"(right|up|left|down)\.$", words)[1]
        page.get_by_role("application").focus()
        act(partial(page.keyboard.press, f"Shift+Arrow{way.capitalize()}"))
    elif words.startswith("Turn one screw"):
        turn_two_screws(server, page, run, hand)
    elif words.startswith("Loosen"):
        turn_screws(server, page, run, hand, words)
    elif "snug" in words:
        act(partial(press, page, hand, button(page, "Snug", exact=True)))
    else:
        where = "finder" if "finder" in words else "main" if "main" in words else "along"
        act(partial(press, page, hand, button(page, LOOKS[where], exact=True)))


@pytest.mark.parametrize(
    ("hand", "way", "telescope"),
    [("pointer", "", "Wren 85"), ("keys", "night", "Dipper 77"), ("touch", "", "Dipper 77")],
)
def test_a_finder_is_aligned_by_the_benchs_words(fresh_demo, new_page, hand, way, telescope):
    choose_telescope(fresh_demo, telescope)  # a dot on two screws; a ring of three
    size = PHONE if hand == "touch" else WIDE
    page = new_page(f"{fresh_demo.url}/practice", size=size)
    run = begin(fresh_demo, page, "finder", seed=3, way=way)
    for _ in range(40):
        words = ask(fresh_demo, page, run, hand)
        if words.startswith("Both agree"):
            break
        follow(fresh_demo, page, run, hand, words)
    press(page, hand, button(page, "It is aligned"))
    expect(page.get_by_role("heading", name=re.compile("^Done"))).to_be_visible()
    expect(page.get_by_text("a mentor would have needed about")).to_be_visible()


@pytest.mark.parametrize("hand", HANDS)
def test_a_star_is_brought_in_with_the_clamps_opened_first(fresh_demo, new_page, hand):
    choose_telescope(fresh_demo, "Dipper 77")
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "pointing", seed=8)
    for _ in range(30):
        words = ask(fresh_demo, page, run, hand)
        if words.startswith("It stands"):
            break
        follow(fresh_demo, page, run, hand, words)
    press(page, hand, button(page, "It is in"))
    expect(page.get_by_role("heading", name=re.compile("^Done"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"^It took \d+:\d\d"))).to_be_visible()


def test_a_forced_clamp_is_noticed(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Dipper 77")
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "pointing", seed=8)
    made(fresh_demo, page, run, partial(button(page, "Push the tube right").click))
    expect(say(page)).to_have_text(re.compile("^Open it first: forced"))


def focus(server: Server, page: Page, run: int, hand: str, words: str) -> None:
    """Turn as long as the disc shrinks, by ever less; a hair too far is turned back."""
    ways = ("Out", "In") if words.startswith("Turn out") else ("In", "Out")

    def width() -> float:
        return told(server, run)["scene"]["disc_share"]

    for amount in ("a lot", "a little", "a hair"):
        for way, back in (ways, ways[::-1]):
            before = width()
            one, other = button(page, f"{way} {amount}"), button(page, f"{back} {amount}")
            made(server, page, run, partial(press, page, hand, one))
            while width() < before:
                before = width()
                made(server, page, run, partial(press, page, hand, one))
            made(server, page, run, partial(press, page, hand, other))


@pytest.mark.parametrize("hand", HANDS)
def test_focus_is_found_for_every_eye_and_told_from_pointing(fresh_demo, new_page, hand):
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "focus", seed=6)
    act = partial(made, fresh_demo, page, run)
    for _ in range(40):
        words = ask(fresh_demo, page, run, hand)
        if words.startswith("It is the"):
            break
        if "lock" in words:
            act(partial(press, page, hand, button(page, "Open the focuser's lock")))
        elif words.startswith("Smallest"):
            act(partial(press, page, hand, button(page, "It is sharp")))
        elif "through" in words:
            act(partial(press, page, hand, button(page, "In a lot")))
        else:
            focus(fresh_demo, page, run, hand, words)
    press(page, hand, button(page, words.split(":")[0]))
    expect(page.get_by_role("heading", name=re.compile("^Done"))).to_be_visible()


@pytest.mark.parametrize("hand", HANDS)
def test_glasses_are_chosen_and_three_sums_said_by_head(fresh_demo, new_page, hand):
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "glass", seed=2)
    act = partial(made, fresh_demo, page, run)
    for _ in range(2):
        glasses = page.get_by_role("group", name="The glasses of the case").get_by_role("button")
        act(partial(press, page, hand, glasses.first))
        act(partial(press, page, hand, glasses.nth(1)))
        act(partial(press, page, hand, button(page, "Show me how")))
        expect(say(page)).to_contain_text("the tube has 760")
        for label, value in (("Power", "58"), ("True field", "1,06"), ("Exit pupil", "2.4")):
            page.get_by_label(label).fill(value)
            act(partial(press, page, hand, button(page, "Say it")))
        expect(page.get_by_role("row", name=re.compile("^13 mm 58× 1.06° 2.4 mm"))).to_be_visible()
        press(page, hand, button(page, "Go on"))
    expect(page.get_by_text("6 of 6 sums were right")).to_be_visible()


@pytest.mark.parametrize("hand", HANDS)
def test_west_the_chart_and_the_push_are_found_in_a_turned_view(fresh_demo, new_page, hand):
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "which_way", seed=3)
    for _ in range(9):
        scene = told(fresh_demo, run)["scene"]
        view = scene["view"]
        matrix = np.array(view["matrix"])
        if scene["ask"] == "west":
            right, up = matrix @ np.array(view["drift"])
            choice = round(np.degrees(np.arctan2(right, up)) / 45) % 8
        elif scene["ask"] == "chart":
            stars = np.array([[one["right"], one["up"]] for one in view["things"]])
            seen = stars / view["radius_arcmin"] @ matrix.T
            choice = next(
                n for n, one in enumerate(scene["charts"]) if np.allclose(np.array(one)[:-1], seen)
            )
        else:
            right, up = -np.array(view["centre"])
            choice = int(np.argmax([right, up, -right, -up]))
        one = button(page, scene["choices"][choice], exact=True)
        made(fresh_demo, page, run, partial(press, page, hand, one))
    expect(page.get_by_role("heading", name="Done, and well done.")).to_be_visible()


def test_a_first_telescope_has_five_lessons_and_then_no_mark(fresh_demo, new_page):
    owned = json.load(urllib.request.urlopen(f"{fresh_demo.url}/api/kit/telescopes"))
    heron = next(one for one in owned if one["name"] == "Heron 140")
    new = {**heron, "id": None, "is_new": True}
    send(fresh_demo.url, f"/kit/telescopes/{heron['id']}", new, "PUT")
    page = new_page(f"{fresh_demo.url}/practice")
    path = page.get_by_role("region", name="First telescope")
    expect(path).to_contain_text("0 of 5 short lessons done")
    path.get_by_role("button", name="Next lesson").click()
    expect(page.get_by_role("heading", level=1, name="Which glass")).to_be_visible()
    button(page, "All drills").click()
    path.get_by_role("button", name="Next lesson").click()  # where it was left
    expect(page.get_by_role("heading", level=1, name="Which glass")).to_be_visible()


@pytest.mark.parametrize("hand", HANDS)
def test_a_target_is_kept_for_five_minutes_by_the_drills_own_clock(fresh_demo, new_page, hand):
    choose_telescope(fresh_demo, "Dipper 77")
    page = new_page(f"{fresh_demo.url}/practice")
    page.add_init_script(SKIPPING)
    run = begin(fresh_demo, page, "keep", seed=4)
    west = button(page, "west")
    for _ in range(6):
        page.evaluate("window.skipped_ms += 15_000")
        stage = made(fresh_demo, page, run, partial(press, page, hand, west))["scene"]["stage"]
    assert stage >= 2
    expect(page.get_by_text(re.compile("power [2-5] of 5"))).to_be_visible()
    page.evaluate("window.skipped_ms += 300_000")
    expect(page.get_by_role("heading", name=re.compile("^(Done|Not yet)"))).to_be_visible()
    expect(page.get_by_text(re.compile("^In the field for"))).to_be_visible()


def test_a_move_waits_while_nobody_answers_and_is_made_once(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/practice")
    run = begin(fresh_demo, page, "level", seed=5)
    fresh_demo.stop()
    raise_it = button(page, re.compile("^↑")).first
    raise_it.click()
    raise_it.click()
    expect(page.get_by_text("2 moves wait here")).to_be_visible()
    fresh_demo.start()
    expect(page.locator(".room")).to_have_attribute("data-moves", "2")
    expect(page.get_by_text(re.compile("moves? waits? here"))).to_have_count(0)
    assert told(fresh_demo, run)["number"] == 2
    other = new_page(f"{fresh_demo.url}/practice?run={run}")
    button(other, re.compile("^↓")).first.click()
    expect(say(other)).to_be_visible()
    expect(page.locator(".room")).to_have_attribute("data-moves", "3")  # known here
    made(fresh_demo, page, run, raise_it.click)
    assert told(fresh_demo, run)["number"] == 4
