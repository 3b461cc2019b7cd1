"""The weather of the night, said better by hand or by file, and the plan on paper."""

import re

from playwright.sync_api import Page, expect

HEAD = "hour_utc,cloud_percent,wind_m_s,humidity_percent,air_c,steadiness,transparency\n"
HOURS = [f"2027-02-13T{hour}:00Z" for hour in range(16, 24)]


def hour(page: Page, at: str):
    return page.get_by_role("radio", name=re.compile(f"^{at}"))


def read_file(page: Page, text: str, name: str = "night.csv") -> None:
    page.get_by_role("button", name="Read a file").click()
    file = {"name": name, "mimeType": "text/csv", "buffer": text.encode()}
    page.locator("input[type=file]").set_input_files(file)


def test_an_hour_is_typed_over_and_the_words_outlive_the_page(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    expect(page.get_by_text("simulated weather")).to_be_visible()
    expect(
        page.get_by_text("Cloudy first; from 19:00 clear or gaps until dawn, best 20:00 to 04:00.")
    ).to_be_visible()
    page.get_by_role("link", name="Why").click()
    expect(page.get_by_role("list", name="Reasons")).to_contain_text("dress for standing still")
    eighteen = hour(page, "18:00")
    eighteen.focus()
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowLeft")
    expect(hour(page, "17:00")).to_be_focused()
    page.keyboard.press("ArrowRight")
    cloud = page.get_by_role("textbox", name="Cloud")
    cloud.fill("150")
    page.get_by_role("button", name="Keep this hour").click()
    expect(page.get_by_text("Allowed: 0 to 100 %")).to_be_visible()
    cloud.fill("10,5")
    page.reload()  # what was typed is a draft
    eighteen.click()
    expect(cloud).to_have_value("10.5")
    page.get_by_role("textbox", name="Wind").fill("18 km/h")
    page.get_by_role("button", name="Keep this hour").click()
    expect(eighteen).to_have_attribute("aria-label", re.compile("clear, cloud 1[01] %, wind 5 m/s"))
    expect(eighteen).to_have_attribute("aria-label", re.compile("typed over"))
    page.reload()
    expect(eighteen).to_have_attribute("aria-label", re.compile("typed over"))
    eighteen.click()
    page.get_by_role("button", name="Forget what was typed").click()
    expect(eighteen).to_have_attribute("aria-label", re.compile("closed, cloud 68 %"))
    page.get_by_role("button", name="Undo").click()
    expect(eighteen).to_have_attribute("aria-label", re.compile("clear, cloud 1[01] %"))


def test_two_windows_do_not_type_over_each_other(fresh_demo, new_page):
    first = new_page(f"{fresh_demo.url}/plan?tab=weather")
    other = new_page(f"{fresh_demo.url}/plan?tab=weather")
    for page, cloud in ((first, "20"), (other, "70")):
        hour(page, "21:00").click()
        page.get_by_role("textbox", name="Cloud").fill(cloud)
    first.get_by_role("button", name="Keep this hour").click()
    expect(hour(first, "21:00")).to_have_attribute("aria-label", re.compile("cloud 20 %"))
    expect(hour(other, "21:00")).to_have_attribute("aria-label", re.compile("cloud 20 %"))
    expect(other.get_by_role("textbox", name="Cloud")).to_have_value("70")  # still there to be kept
    other.get_by_role("button", name="Keep this hour").click()
    meanwhile = other.get_by_role("alert", name="Changed meanwhile")
    expect(meanwhile.get_by_role("row", name="Cloud 70 20")).to_be_visible()
    meanwhile.get_by_role("button", name="Keep mine").click()
    expect(hour(other, "21:00")).to_have_attribute("aria-label", re.compile("cloud 70 %"))
    expect(hour(first, "21:00")).to_have_attribute("aria-label", re.compile("cloud 70 %"))


def test_a_file_with_a_bad_row_and_with_holes(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan?tab=weather")
    expect(page.get_by_text("Cloudy first")).to_be_visible()
    read_file(page, HEAD + f"{HOURS[0]},5,2,60,4,4,4\n{HOURS[1]},500,2,60,4,4,4\n")
    expect(
        page.get_by_role("status").filter(has_text="Nothing can be kept: 1 of 2")
    ).to_be_visible()
    expect(page.get_by_text("cloud_percent is 500")).to_be_visible()
    expect(page.get_by_role("button", name="Use these")).to_have_count(0)
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_text("simulated weather").first).to_be_visible()
    rows = "".join(f"{at},5,2,60,4,4,4\n" for at in HOURS if "T20" not in at)
    read_file(page, HEAD + rows)
    expect(page.get_by_text("7 hours, 1 lack between them.")).to_be_visible()
    page.get_by_role("button", name="Use these 7 hours").click()
    expect(page.get_by_text("Done: 7 hours")).to_be_visible()
    page.get_by_role("button", name="Close", exact=True).click()
    expect(page.get_by_text("Clear from dusk until 21:00.")).to_be_visible()
    expect(page.get_by_text("simulated weather")).to_have_count(0)
    expect(hour(page, "21:00")).to_have_attribute("aria-label", re.compile("not known, cloud – %"))
    page.goto(f"{fresh_demo.url}/setup")
    page.get_by_role("button", name=re.compile("^Cool-down and dew")).click()
    expect(page.get_by_text("By the weather file for 17:00", exact=False).first).to_be_visible()
    page.goto(f"{fresh_demo.url}/plan?tab=weather")
    page.get_by_role("button", name="take away").click()
    expect(page.get_by_text("simulated weather").first).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("Clear from dusk until 21:00.")).to_be_visible()


def saved(page: Page, name: str) -> bytes:
    with page.expect_download() as waiting:
        page.get_by_role("dialog").get_by_text(name, exact=True).click()
    return waiting.value.path().read_bytes()


def test_the_plan_on_paper_and_back_from_a_file(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/plan")
    page.get_by_role("button", name="Print, save").click()
    expect(page.get_by_text("plan the evening first")).to_be_visible()
    expect(page.get_by_role("button", name="Field cards")).to_be_disabled()
    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_role("button", name="Plan the evening").click()
    plan = page.get_by_role("list", name="Blocks of the plan")
    expect(plan.get_by_role("listitem").filter(has_text="Moon")).to_be_visible()
    page.get_by_role("button", name="Print, save").click()
    page.get_by_role("button", name="A5").click()
    page.get_by_label("To be read by a red torch").check()
    small = saved(page, "Field cards")
    assert small.startswith(b"%PDF") and b"[0 0 419.5" in small
    assert saved(page, "The whole sky").startswith(b"%PDF")
    document = saved(page, "JSON")
    assert saved(page, "iCalendar").startswith(b"BEGIN:VCALENDAR")
    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_role("button", name="Skip Moon").click()
    expect(page.get_by_role("list", name="Left out of the plan")).to_contain_text("Moon")
    page.get_by_role("button", name="Print, save").click()
    page.get_by_role("button", name="Read a plan").click()
    file = {"name": "plan.json", "mimeType": "application/json", "buffer": document}
    page.locator("input[type=file]").set_input_files(file)
    page.get_by_role("button", name=re.compile("^Wish for . targets")).click()
    expect(page.get_by_text("Done:")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    expect(page.get_by_role("list", name="Left out of the plan")).to_have_count(0)
    page.reload()  # the paper that was chosen stays
    page.get_by_role("button", name="Print, save").click()
    expect(page.get_by_label("To be read by a red torch")).to_be_checked()


def test_the_ladder_hears_what_is_said_of_the_air(fresh_demo, new_page):
    page = new_page(f"{fresh_demo.url}/powers")
    air = page.get_by_text(re.compile("tonight's air: "))
    expect(air.filter(has_text="not judged yet").first).to_be_attached()
    for at in ("17", "18", "19"):  # looking begins at 19:31 by the clock on the wall
        url = f"{fresh_demo.url}/api/plan/weather/hours/2027-02-13T{at}:00Z"
        page.request.put(url, data={"steadiness": 1})
    expect(air.filter(has_text="steadiness 1 of 5 by the weather hours").first).to_be_attached()
    page.request.patch(f"{fresh_demo.url}/api/evening", data={"steadiness": 4})
    expect(air.filter(has_text="steadiness 4 of 5, taken").first).to_be_attached()
