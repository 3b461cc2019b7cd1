"""The journal under hand: search, evenings, lists, what records teach, everything out and in."""

import re
import sqlite3
import time
from contextlib import closing
from io import BytesIO

from PIL import Image
from playwright.sync_api import Page, expect

from jade_perch.cli import main
from jade_perch.store.copies import list_copies

from .conftest import PHONE
from .test_first_evening import fill, save
from .test_kit_and_powers import send

NIGHT = "2027-02-06T{:02d}:00:00Z"


def note(server, name, hour=20, **more):
    values = {"object_name": name, "observed_at_utc": NIGHT.format(hour), "zone": "Europe/Berlin",
              "site_name": "Larkstone Common", "telescope_name": "Heron 140"}  # fmt: skip
    return send(server.url, "/journal/observations", values | more)


def tab(page: Page, name: str) -> None:
    page.get_by_role("button", name=name, exact=True).click()


def test_search_finds_as_one_types_and_filters_narrow_it(fresh_demo, new_page):
    note(fresh_demo, "M42", 19, words="A fan of light, <b>green</b>.", outcome="seen")
    note(fresh_demo, "M1", 20, words="Nothing but a guess.", outcome="not seen")
    page = new_page(f"{fresh_demo.url}/journal")
    field = page.get_by_role("textbox", name="Search every note")
    field.fill("ngc 1976 fa")
    left = page.get_by_role("region", name="Evenings and notes")
    hit = left.get_by_role("button", name=re.compile("M42"))
    expect(hit).to_contain_text("A fan of light, <b>green</b>.")
    expect(left.get_by_role("status")).to_have_text(re.compile(r"^\s*1 note\b"))
    hit.click()
    expect(page.get_by_role("article", name="M42")).to_contain_text("Heron 140")
    page.get_by_role("button", name="The whole evening").click()
    expect(page.get_by_role("article", name="M1")).to_contain_text("tried, not seen")
    field.fill("zebra")
    expect(left.get_by_text("Nothing noted has these words.")).to_be_visible()
    page.get_by_role("button", name="All evenings").click()
    expect(left.get_by_text("21 notes of 7 evenings")).to_be_visible()
    page.get_by_role("button", name="Filter").click()
    page.get_by_role("combobox", name="Outcome").press("ArrowDown")
    page.get_by_role("option", name="Not seen").click()
    expect(left.get_by_role("button", name=re.compile("M1"))).to_be_visible()
    expect(left.get_by_role("button", name=re.compile("M42"))).to_have_count(0)
    page.get_by_role("textbox", name="From").fill("2027-02")
    expect(left.get_by_role("alert")).to_contain_text("Since")


def test_a_note_taken_out_elsewhere_leaves_and_comes_back_by_undo(fresh_demo, new_page):
    kept = note(fresh_demo, "M42", words="Mine.")
    page, other = (new_page(f"{fresh_demo.url}/journal") for _ in range(2))
    for one in (page, other):
        one.get_by_role("button", name=re.compile("Sat 6 Feb 2027")).click()
        expect(one.get_by_role("article", name="M42")).to_be_visible()
    other.get_by_role("button", name="Delete M42").click()
    expect(page.get_by_role("article", name="M42")).to_have_count(0)
    other.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("article", name="M42")).to_contain_text("Mine.")
    assert page.request.get(f"{fresh_demo.url}/api/journal/observations/{kept['id']}").ok


def test_a_sketch_opens_larger_and_stays_red_in_the_dark(fresh_demo, new_page):
    strokes = [{"points": [0, 0, 300, 300, -300, 100], "pencil": "broad"}]
    note(fresh_demo, "M42", words="Drawn.", sketch=strokes, outcome="glimpsed")
    page = new_page(f"{fresh_demo.url}/journal", PHONE, "dark")
    page.get_by_role("button", name=re.compile("Sat 6 Feb 2027")).click()
    page.get_by_role("button", name="Sketch of M42, larger").click()
    shown = page.get_by_role("dialog", name="M42, larger")
    expect(shown.get_by_role("img", name="Sketch of M42")).to_be_visible()
    red, green, blue = Image.open(BytesIO(page.screenshot())).convert("RGB").split()
    assert green.getextrema()[1] <= 8 and blue.getextrema()[1] <= 8 and red.getextrema()[1] > 100
    shown.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="Back to the list").click()
    expect(page.get_by_role("button", name=re.compile("Fri 12 Feb 2027"))).to_be_visible()


def test_a_list_fills_says_what_comes_next_and_goes_into_the_plan(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/journal")
    tab(page, "Lists")
    page.get_by_role("button", name=re.compile("^Planets")).click()
    marks = page.get_by_role("list", name="The list, mark by mark")
    expect(marks.get_by_role("button", name="Jupiter, seen")).to_be_visible()
    marks.get_by_role("button", name="Saturn, to go").click()
    left = page.get_by_role("region", name="What is left")
    expect(left.get_by_role("article")).to_contain_text(
        re.compile(r"Sat 13 Feb 2027, 18:\d\d, 3\d° up")
    )
    left.get_by_role("button", name="Add to tonight").click()
    expect(page.get_by_text("Added to tonight.")).to_be_visible()
    expect(left.get_by_role("button", name="In tonight's plan")).to_be_disabled()
    note(fresh_demo, "Saturn", outcome="glimpsed", words="A ring!")
    expect(marks.get_by_role("button", name="Saturn, glimpsed")).to_be_visible()
    marks.get_by_role("button", name="Saturn, glimpsed").click()
    left.get_by_role("button", name="Read the note").click()
    expect(page.get_by_role("article", name="Saturn")).to_contain_text("A ring!")
    page.goto(f"{fresh_demo.url}/plan")
    expect(page.get_by_role("main")).to_contain_text("Saturn")


def test_an_own_list_is_reported_row_by_row_kept_and_taken_back(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/journal")
    tab(page, "Lists")
    page.get_by_role("button", name="A list of your own …").click()
    dialog = page.get_by_role("dialog", name="A list of your own")
    text = "object\nM31\nNowhere 7\n"
    csv = {"name": "Autumn.csv", "mimeType": "text/csv", "buffer": text.encode()}
    dialog.locator("input[type=file]").set_input_files(csv)
    expect(dialog).to_contain_text("is not in the catalogue; kept by name")
    dialog.get_by_role("button", name="Keep a list of 2").click()
    expect(dialog).to_contain_text("Done: 1 of 2 entries are in the catalogue.")
    dialog.get_by_role("button", name="Close").click()
    page.get_by_role("button", name=re.compile("^Autumn")).click()
    with page.expect_download() as saved:
        page.get_by_role("button", name="Log on paper").click()
    assert saved.value.path().read_bytes().startswith(b"%PDF")
    page.get_by_role("button", name="Take out").click()
    expect(page.get_by_role("button", name=re.compile("^Autumn"))).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("^Autumn"))).to_be_visible()


def test_what_the_records_teach_is_offered_taken_and_given_back(fresh_demo, new_page):
    for n in range(20):
        name = ("NGC 2022", "M1", "NGC 2392", "M78")[n % 4]
        send(fresh_demo.url, "/journal/observations", {
            "object_name": name, "observed_at_utc": "2027-02-13T21:00:00Z", "glass": "18 mm",
            "zone": "Europe/Berlin", "telescope_name": "Heron 140", "observer_name": "Ilse Marrow",
            "site_name": "Larkstone Common", "outcome": "not seen" if n % 5 else "seen",
        })  # fmt: skip
    page = new_page(f"{fresh_demo.url}/journal")
    tab(page, "What it teaches")
    lesson = page.get_by_role("article", name="Seen against promised")
    expect(lesson).to_contain_text("as 20 notes show")
    people = f"{fresh_demo.url}/api/evening/observers"
    assert all(one["field_factor"] is None for one in page.request.get(people).json())
    lesson.get_by_role("button", name=re.compile("^Use ")).click()
    expect(page.get_by_text(re.compile("eye is reckoned with"))).to_be_visible()
    expect(lesson.get_by_role("button")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(lesson.get_by_role("button", name=re.compile("^Use "))).to_be_visible()
    assert all(one["field_factor"] is None for one in page.request.get(people).json())


def test_everything_goes_out_and_comes_in_where_it_is_missing(fresh_demo, empty_server, new_page):
    note(fresh_demo, "M42", words="Carried over.", outcome="seen")
    page = new_page(f"{fresh_demo.url}/journal")
    page.get_by_role("button", name="Kept safe").click()
    dialog = page.get_by_role("dialog", name="Kept safe")
    expect(dialog).to_contain_text(re.compile("The last copy was made|No copy has been made yet"))
    with page.expect_download() as saved:
        dialog.get_by_role("button", name="Save everything").click()
    path = saved.value.path()
    assert saved.value.suggested_filename == "jade-perch-2027-02-13.zip"
    other = new_page(f"{empty_server.url}/journal")
    other.get_by_role("button", name="Kept safe").click()
    dialog = other.get_by_role("dialog", name="Kept safe")
    file = {"name": "all.zip", "mimeType": "application/zip", "buffer": b"PK half"}
    dialog.locator("input[type=file]").set_input_files(file)
    expect(dialog.get_by_role("alert")).to_contain_text("a whole zip file")
    file["buffer"] = path.read_bytes()
    dialog.locator("input[type=file]").set_input_files(file)
    expect(dialog).to_contain_text("20 new")
    dialog.get_by_role("button", name=re.compile("^Take in ")).click()
    expect(dialog).to_contain_text("Done:")
    dialog.get_by_role("button", name="Close").click()
    other.get_by_role("button", name=re.compile("Sat 6 Feb 2027")).click()
    expect(other.get_by_role("article", name="M42")).to_contain_text("Carried over.")
    expect(other.get_by_role("banner")).to_contain_text("Heron 140")  # every station was told


def test_a_copy_put_back_brings_back_what_was_there(empty_server, new_page):
    page = new_page(f"{empty_server.url}/journal")
    page.get_by_role("button", name="Note your first observation").click()
    fill(page, What_did_you_see="Moon", In_your_own_words="Before the copy.")
    save(page)
    expect(page.get_by_role("article", name="Moon")).to_contain_text("Before the copy.")
    for one in list_copies(empty_server.data_dir):
        one.path.unlink()
    empty_server.stop()
    empty_server.start()  # the copy of the day is made anew
    page.get_by_role("button", name="Kept safe").click()
    expect(page.get_by_role("dialog", name="Kept safe")).to_be_visible()
    deadline = time.monotonic() + 120
    while not list_copies(empty_server.data_dir) and time.monotonic() < deadline:
        page.request.get(f"{empty_server.url}/api/journal/everything/copies")
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    page.get_by_role("button", name="Delete Moon").click()
    expect(page.get_by_text("Nothing written yet")).to_be_visible()
    where = ["--data-dir", str(empty_server.data_dir)]
    assert main(["restore", "latest", *where]) == 2  # not while it runs
    empty_server.stop()
    assert main(["restore", "latest", *where]) == 0
    empty_server.start()
    page.goto(f"{empty_server.url}/journal")
    expect(page.get_by_role("article", name="Moon")).to_contain_text("Before the copy.")
    (aside,) = empty_server.data_dir.glob("before-*/*.sqlite3")
    with closing(sqlite3.connect(aside)) as db:
        kept = db.execute("SELECT count(*) FROM observation WHERE deleted_at_utc IS NULL")
        assert kept.fetchone()[0] == 0


def test_thousands_of_notes_are_read_as_they_are_scrolled(empty_server, new_page):
    database = empty_server.data_dir / "jade-perch.sqlite3"
    with closing(sqlite3.connect(database)) as db, db:
        db.executemany(
            "INSERT INTO observation (observed_at_utc, object_name, telescope_name, glass, words, "
            "site_name, zone) VALUES (?, ?, '', '', 'dust', '', 'UTC')",
            [(f"2020-01-01T{n // 60:02d}:{n % 60:02d}:00Z", f"Thing {n}") for n in range(1300)],
        )
    page = new_page(f"{empty_server.url}/journal?")
    page.get_by_role("button", name="Kept safe").wait_for()
    note_first = {"object_name": "Moon", "observed_at_utc": "2027-02-13T10:00:00Z"}
    send(empty_server.url, "/journal/observations", note_first)
    page.get_by_role("textbox", name="Search every note").fill("dust")
    left = page.get_by_role("region", name="Evenings and notes")
    expect(left.get_by_role("status")).to_contain_text("over 1000 notes")
    expect(left.get_by_role("button", name=re.compile(r"^seen Thing 1299\b"))).to_be_visible()
    last = left.get_by_role("button", name=re.compile(r"^seen Thing 1100\b"))
    for _ in range(40):
        if last.count():
            break
        left.get_by_role("button", name=re.compile("Thing")).last.scroll_into_view_if_needed()
    expect(last).to_have_count(1)


def test_the_journal_by_keys_alone(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/kit")
    page.keyboard.press("6")
    evening = page.get_by_role("button", name=re.compile("Sat 16 Jan 2027"))
    evening.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("article", name="Jupiter")).to_be_visible()
    page.get_by_role("button", name="Lists", exact=True).focus()
    page.keyboard.press("Enter")
    mark = page.get_by_role("button", name="M51 Whirlpool Galaxy, to go")
    mark.focus()
    page.keyboard.press("Space")
    expect(page.get_by_role("region", name="What is left").get_by_role("article")).to_contain_text(
        "M51"
    )
