"""Live instruments and a server that falls silent: what is shown is what comes, in every tab."""

import re

from playwright.sync_api import expect

from .test_setup import choose_telescope, go_to, told
from .test_sky_and_place import about

TABS = 7  # more than a browser opens connections to one host
GONE = "Nothing comes from the application."


def live_level(page):
    go_to(page, "Level")
    page.get_by_role("button", name="Live level").click()
    line = page.get_by_role("status").filter(has_text="Reading")
    expect(line).to_contain_text("Steady.")
    return line


def reading_goes_on(page):
    """Two readings after the one that is shown come in."""
    line = page.get_by_role("status").filter(has_text="Reading")
    for _ in range(2):
        shown = re.search(r"Reading (\d+)", line.inner_text())[0]
        expect(line).not_to_contain_text(re.compile(f"{shown}\\b"))
        expect(line).to_contain_text("Steady.")


def test_a_server_that_stands_still_is_told_and_its_readings_come_again(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Coot 110")
    page = new_page(f"{fresh_demo.url}/setup")
    line = live_level(page)
    fresh_demo.freeze()
    try:
        expect(page.get_by_role("status").filter(has_text=GONE)).to_be_visible()
        expect(line).to_have_count(0)  # what it read last is not what it reads now
        expect(told(page)).not_to_contain_text("Lengthen")  # nor does what was advised of it stand
        expect(page.get_by_role("alert").filter(has_text="does not answer").first).to_be_visible()
    finally:
        fresh_demo.thaw()
    expect(line).to_contain_text("Steady.")
    expect(page.get_by_text(GONE)).to_have_count(0)
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_have_count(0)


# what is not needed at first sight is fetched a while after
SHEET_HAS_COME = """() => performance.getEntriesByType('resource')
  .some(one => one.name.includes('/EveningSheet') && one.responseEnd > 0)"""


def test_nothing_moves_while_nobody_answers_and_what_was_asked_meanwhile_comes(
    fresh_demo, new_page
):
    page = new_page(f"{fresh_demo.url}/plan")
    expect(page.get_by_role("article").first).to_be_visible()
    press = page.get_by_role("button", name="Plan the evening")
    page.wait_for_function(SHEET_HAS_COME)
    there = press.bounding_box()
    fresh_demo.freeze()
    try:
        page.get_by_role("button", name=re.compile("Sat 13 Feb")).click()
        gone = page.get_by_role("alert").filter(has_text="does not answer")
        expect(gone).to_have_count(2)  # of the page, and of the sheet that has nothing to show
        assert press.bounding_box() == there
    finally:
        fresh_demo.thaw()
    expect(page.get_by_label("Evening of")).to_be_visible()
    expect(gone).to_have_count(0)


def test_what_was_sought_while_nobody_answered_is_taken_once_it_is_found(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    expect(page.get_by_role("article").first).to_be_visible()
    field = page.get_by_role("textbox", name="Find a target")
    fresh_demo.freeze()
    try:
        field.fill("M42")
        field.press("Enter")
        expect(page.get_by_role("alert").filter(has_text="does not answer").first).to_be_visible()
    finally:
        fresh_demo.thaw()
    expect(about(page, "M42")).to_be_visible()


def test_a_stream_cut_off_alone_is_opened_again(fresh_demo, new_page):
    """The server goes on; only the way of the stream is cut, and the page asks anew."""
    choose_telescope(fresh_demo, "Coot 110")
    page = new_page(f"{fresh_demo.url}/setup")
    line = live_level(page)
    fresh_demo.stop()
    expect(page.get_by_role("status").filter(has_text=GONE)).to_be_visible()
    fresh_demo.start()
    expect(line).to_contain_text("Steady.")
    expect(told(page)).to_contain_text(re.compile("leg"))


def several_tabs(server, new_page, paths):
    """Tabs of one browser as on another machine: without locks."""
    first = new_page(server.url)
    first.context.add_init_script("delete Navigator.prototype.locks")
    tabs = [first, *(first.context.new_page() for _ in paths[1:])]
    for tab, path in zip(tabs, paths, strict=True):
        tab.goto(server.url + path)
        expect(tab.get_by_role("navigation", name="Stations")).to_be_visible()
    assert not first.evaluate("'locks' in navigator")
    return tabs


def test_many_tabs_share_one_stream_and_none_waits(fresh_demo, new_page):
    choose_telescope(fresh_demo, "Coot 110")
    first, *others = several_tabs(fresh_demo, new_page, ["/practice"] * TABS + ["/setup"])
    live_level(others[-1])
    first.close()  # the tab that read for all of them
    reading_goes_on(others[-1])
    others[0].goto(f"{fresh_demo.url}/kit")
    expect(others[0].get_by_role("button", name=re.compile("Heron 140")).first).to_be_visible()


def test_a_tab_that_stands_still_is_followed_by_another(fresh_demo, new_page):
    """The one tab that reads for all may be stopped; what it told last is not what comes."""
    choose_telescope(fresh_demo, "Coot 110")
    first, *others = several_tabs(fresh_demo, new_page, ["/setup"] * 3)
    for page in (first, *others):
        live_level(page)
    stopped = first.context.new_cdp_session(first)
    stopped.send("Debugger.enable")
    stopped.send("Debugger.pause")
    for page in others:
        reading_goes_on(page)
    stopped.send("Debugger.disable")
    for page in (first, *others):
        reading_goes_on(page)


def test_a_damaged_database_is_told_and_the_copy_put_back(empty_server, new_page):
    page = new_page(f"{empty_server.url}/journal")
    note = {"observed_at_utc": "2027-02-13T15:00:00Z", "object_name": "M42", "words": "kept"}
    api = f"{empty_server.url}/api/journal"
    page.request.post(f"{api}/observations", data=note)
    empty_server.stop()
    for path in (empty_server.data_dir / "copies").glob("*"):
        path.unlink()
    empty_server.start()  # the copy of the day is made anew
    folder = empty_server.data_dir / "copies"
    page.goto(f"{empty_server.url}/journal")
    page.get_by_role("button", name="Kept safe").click()
    expect(page.get_by_text(re.compile("The last copy was made"))).to_be_visible()
    empty_server.stop()
    assert list(folder.glob("*.sqlite3"))
    database = empty_server.data_dir / "jade-perch.sqlite3"
    database.write_bytes(database.read_bytes()[:9000].ljust(200_000, b"x"))
    empty_server.start()
    page.goto(f"{empty_server.url}/journal")
    notice = page.get_by_role("alert", name="Damaged database")
    expect(notice).to_contain_text("laid aside")
    notice.get_by_role("button", name="Put that copy back").click()
    expect(notice).to_have_count(0)
    expect(page.get_by_text("M42").first).to_be_visible()
