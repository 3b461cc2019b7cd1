"""Every state of the page: each station, tab and step, and whatever opens over them.

Stations, tabs and steps are read off the page; what opens over them is told here, by the file it
is in, and a test finds any file that opens something and is not told of.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from playwright.sync_api import Browser, Locator, Page, expect

from .conftest import PHONE
from .warm import Server

SOURCE = Path(__file__).parents[2] / "frontend/src"
OPENS = re.compile(r"<(SideSheet|PageDialog|v-menu|ImportDialog)\b")
TABS = ("What to show", "What to plan", "What of the journal")
STEPS = "Set-up steps"
# parts that lend their frame to what is told below
LENT = {"shell/SideSheet.vue", "shell/PageDialog.vue", "shell/ImportDialog.vue"}
EMPTY = "nothing stored"


@dataclass(frozen=True)
class Opening:
    """What opens over a place: its file, where, and what is pressed one after the other."""

    file: str
    place: str
    presses: tuple[tuple[str, str], ...]
    on_phone: bool | None = None  # only there, or only on a wide screen
    regime: str = ""  # only in that one


def press(name: str, role: str = "button") -> tuple[str, str]:
    return role, name


MORE, WRONG = press("^More: fit"), press("^Something is wrong")
HERON = press("^Heron 140 140")
FILE, ASK = press("Import a file", "text"), press("Choose a file", "text")
OPENINGS = (
    Opening("shell/LightMenu.vue", "kit", (press("^(Daylight|Dusk|Dark)$"),)),
    Opening("shell/EveningSheet.vue", "kit", (press("Larkstone"),)),
    Opening("shell/WhiteNotice.vue", "kit", (MORE, FILE, ASK), None, "dark"),
    Opening("shell/KeyHelp.vue", "kit", (press("?", "key"),)),
    Opening("shell/NoteSheet.vue", "kit", (press("o", "key"),)),
    Opening("shell/SumDialog.vue", "powers/Ladder", (press("true field"),)),
    Opening("stations/kit/KitStation.vue", "kit", (MORE, FILE)),
    Opening("drawings/SaveMenu.vue", "powers/Ladder", (press("^Save ladder"),)),
    Opening("stations/kit/MoreMenu.vue", "kit", (MORE,)),
    Opening("stations/kit/BoxSheet.vue", EMPTY, (press("^Put your first"),)),
    Opening("stations/kit/KitSheet.vue", "kit", (HERON,)),
    Opening("stations/kit/LabelCheck.vue", "kit", (MORE, press("Check a label", "text"))),
    Opening("stations/kit/FitDialog.vue", "kit", (MORE, press("What fits into what", "text"))),
    Opening(
        "stations/kit/ReachDialog.vue", "kit", (press("^Heron 140 140"), press("^What it can show"))
    ),
    Opening("stations/powers/PowersStation.vue", "powers/Ladder", (press("^More ways"),)),
    Opening("stations/setup/BenchPath.vue", "setup/Level", (press("^Something moved"),)),
    Opening("stations/setup/steps/FinderStep.vue", "setup/Finder", (press("^Star"), WRONG)),
    Opening("stations/plan/PaperMenu.vue", "plan/Tonight", (press("^Print, save"),)),
    Opening("stations/plan/WeatherTab.vue", "plan/Weather", (press("^Read a file"),)),
    Opening("stations/journal/KeepSafe.vue", "journal/Evenings", (press("^Kept safe"),)),
    Opening("stations/journal/ListsTab.vue", "journal/Lists", (press("^A list of your own"),)),
    Opening("stations/journal/NoteCard.vue", "journal/Evenings", (press("larger$"),), False),
    Opening("stations/eyepiece/BesidePanel.vue", "eyepiece", (press("^People and air"),), True),
    Opening("stations/eyepiece/PeopleSheet.vue", "eyepiece", (press("At the eyepiece"),), False),
    Opening("stations/eyepiece/AirSheet.vue", "eyepiece", (press("Air and sky"),), False),
    Opening("stations/eyepiece/RehearsalSheet.vue", "eyepiece", (press("^Rehearse"),), False),
    Opening("stations/eyepiece/SymptomSheet.vue", "eyepiece", (press("b", "key"),)),
)


def files_that_open() -> set[str]:
    """Whatever file of the page opens something over it; parts that only lend their frame not."""
    files = SOURCE.rglob("*.vue")
    found = {str(one.relative_to(SOURCE)) for one in files if OPENS.search(one.read_text())}
    return found - LENT


# counts what is asked for and not answered yet; before the page's own code runs
COUNT = """(() => {
  const real = window.fetch
  window.asked = 0
  window.quiet_since = performance.now()
  window.fetch = async (...all) => {
    window.asked++
    try {
      return await real(...all)
    } finally {
      window.asked--
      window.quiet_since = performance.now()
    }
  }
})()"""
QUIET = """() => window.asked === 0 && performance.now() - window.quiet_since > 120 &&
  document.querySelector('main h1, main h2') &&
  document.getAnimations().every(one => one.playState !== 'running') &&
  ![...document.querySelectorAll('.v-progress-linear')].some(one =>
    one.getBoundingClientRect().height > 0 && one.getAttribute('aria-hidden') !== 'true')"""


def settle(page: Page) -> None:
    """Wait until nothing is asked for any more and nothing shows that it works."""
    page.wait_for_function(QUIET)
    page.evaluate("document.fonts.ready")


def open_page(browser: Browser, url: str, size: tuple[int, int], regime: str) -> Page:
    """Open a page that counts what it asks for, and takes the measures in."""
    context = browser.new_context(
        viewport={"width": size[0], "height": size[1]},
        reduced_motion="reduce",
        has_touch=size == PHONE,
        bypass_csp=True,
    )
    context.add_init_script(f"localStorage.setItem('jade-perch.regime', '\"{regime}\"')")
    context.add_init_script(COUNT)
    page = context.new_page()
    page.goto(url)
    settle(page)
    return page


def lay_out(demo: Server) -> None:
    """Give the demo what it does not hold and a screen may show: a sketch, a planned evening."""
    note = {"object_name": "M42", "observed_at_utc": "2027-02-13T20:00:00Z", "outcome": "seen"}
    sketch = {"sketch": [{"points": [0, 0, 300, 200, 400, -100]}]}
    demo.ask("/api/journal/observations", note | sketch)
    demo.ask("/api/plan/schedule", {"target_keys": []})


def steps(page: Page) -> Locator:
    return page.get_by_role("navigation", name=STEPS).get_by_role("listitem")


def tabs(page: Page) -> Locator:
    return page.locator(", ".join(f'[aria-label="{name}"]' for name in TABS)).get_by_role("button")


def cards(page: Page) -> Locator:
    """The drills on their wall, each a room of its own."""
    return page.locator('main[aria-label="practice"] article')


def enter(page: Page, card: Locator) -> None:
    """Begin a drill, or what else a card leads to."""
    card.get_by_role("button").or_(card.get_by_role("link")).first.click()
    page.get_by_role("button", name="All drills").wait_for()
    settle(page)


def words_of(one: Locator) -> str:
    """Return what stands on a tab or a step."""
    title = one.locator(".title")
    return (title if title.count() else one).inner_text().strip()


def to_station(page: Page, station: str) -> None:
    page.locator(f'nav[aria-label="Stations"] a[href="/{station}"]').click()
    page.locator(f'main[aria-label="{station}"] :is(h1, h2)').first.wait_for()
    settle(page)


def places(page: Page, only: Sequence[str] = ()) -> Iterator[str]:
    """Go to every place of the page, or of some stations, in turn; each yields its name."""
    stations = page.get_by_role("navigation", name="Stations").get_by_role("link")
    for n in range(stations.count()):
        station = str(stations.nth(n).get_attribute("href")).strip("/")
        if only and station not in only:
            continue
        to_station(page, station)
        parts = steps(page) if steps(page).count() else tabs(page)
        if not parts.count():
            yield station
        for card in range(cards(page).count()):
            name = cards(page).nth(card).get_by_role("heading").inner_text()
            enter(page, cards(page).nth(card))
            yield f"{station}/{name}"
            page.get_by_role("button", name="All drills").click()
            settle(page)
        for part in range(parts.count()):
            one = parts.nth(part)
            (one.get_by_role("button") if station == "setup" else one).click()
            settle(page)
            yield f"{station}/{words_of(one)}"


def go(page: Page, place: str) -> None:
    """Go to one place by its name."""
    station, _, part = place.partition("/")
    to_station(page, station)
    if station == "practice" and part:
        enter(page, cards(page).filter(has=page.get_by_role("heading", name=part)))
    elif part:
        parts = steps(page) if station == "setup" else tabs(page)
        one = parts.filter(has_text=re.compile(f"^\\W*\\d*\\W*{part}"))
        (one.get_by_role("button") if station == "setup" else one).first.click()
        settle(page)


def open_it(page: Page, opening: Opening) -> None:
    """Open what an opening tells of, and wait for it."""
    for role, name in opening.presses:
        if role == "key":
            page.keyboard.press(name)
        elif role == "text":
            page.get_by_text(re.compile(name)).first.click()
        else:
            page.get_by_role("button", name=re.compile(name)).first.click()
        settle(page)
    expect(page.locator(".v-overlay--active").last).to_be_visible()


def close_it(page: Page) -> None:
    """Close whatever is open, one after the other."""
    active = page.locator(".v-overlay--active")
    for _ in range(active.count()):
        before = active.count()
        page.keyboard.press("Escape")
        expect(active).not_to_have_count(before)
    expect(active).to_have_count(0)
