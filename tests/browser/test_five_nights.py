"""Five evenings from place to plan: a new owner's, a city's, a dark one, the south, nothing."""

import re

from playwright.sync_api import Page, expect

from .test_sky_and_place import about, find

LISTS = {"first": "First night", "city": "Bright sky", "usual": "All"}


def put_out(page: Page, url: str, place: dict, telescope: dict, day: str | None = None) -> None:
    """A place and a telescope with two eyepieces, as somebody types them on another day."""
    place = {
        "name": "Garden",
        "latitude_deg": 48,
        "longitude_deg": 8,
        "zone": "Europe/Berlin",
    } | place
    site = page.request.post(f"{url}/api/evening/sites", data=place).json()
    tube = page.request.post(f"{url}/api/kit/telescopes", data=telescope).json()
    for name, mm in (("Long", 25), ("Short", 10)):
        glass = {"name": name, "focal_length_mm": mm, "apparent_field_deg": 50}
        page.request.post(f"{url}/api/kit/eyepieces", data=glass)
    chosen = {"site_id": site["id"], "telescope_id": tube["id"], "date": day}
    page.request.patch(f"{url}/api/evening", data=chosen)


SMALL = {"name": "Starling", "aperture_mm": 70, "focal_length_mm": 700, "design": "refractor"}
LARGE = {"name": "Stork", "aperture_mm": 250, "focal_length_mm": 1250, "design": "newtonian"}


def begin(server, new_page, place=None, telescope=SMALL, day=None, **more) -> Page:
    page = new_page(f"{server.url}/plan")
    expect(page.get_by_role("heading", name="Where do you observe?")).to_be_visible()
    put_out(page, server.url, place or {}, telescope, day)
    page.reload()
    return page


def rows(page: Page):
    return page.get_by_role("article")


def is_listed(page: Page, title: str) -> None:
    expect(page.get_by_role("button", name=title, exact=True)).to_have_class(re.compile("--active"))


def test_a_new_owners_first_night(empty_server, new_page):
    page = begin(empty_server, new_page, telescope={**SMALL, "is_new": True})
    is_listed(page, "First night")
    expect(rows(page).filter(has_text="Moon")).to_have_count(1)
    expect(rows(page).filter(has_text="galaxy")).to_have_count(0)
    expect(page.get_by_text("Nobody said how dark it is here")).to_be_visible()
    page.get_by_role("button", name="Plan the evening").click()
    plan = page.get_by_role("list", name="Blocks of the plan")
    expect(plan.get_by_role("listitem").filter(has_text="Moon")).to_be_visible()
    plan.get_by_role("button", name="Moon", exact=True).click()
    moon = about(page, "Moon")
    expect(moon).to_contain_text("Craters and peaks along the shadow line")
    expect(moon.get_by_role("img", name=re.compile("^By eye: It is|^By eye: From"))).to_be_visible()


def test_a_city_night(empty_server, new_page):
    page = begin(empty_server, new_page, {"dark_sky_class": 9}, LARGE)
    is_listed(page, "Bright sky")
    expect(rows(page).filter(has_text="Jupiter").first).to_be_visible()
    expect(rows(page).filter(has_text=re.compile("galaxy, |nebula, "))).to_have_count(0)
    find(page, "M101")
    expect(about(page, "M101")).to_contain_text("not from here")
    expect(about(page, "M101")).to_contain_text("darker")


def test_a_dark_place_without_a_moon(empty_server, new_page):
    page = begin(empty_server, new_page, {"dark_sky_class": 2}, LARGE, "2027-03-06")
    is_listed(page, "All")
    expect(rows(page).filter(has_text="M81")).to_contain_text("easy")
    find(page, "M101")
    expect(about(page, "M101")).to_contain_text(re.compile("easy|clear"))
    page.get_by_role("button", name="Weather").click()
    expect(page.get_by_role("list", name="Reasons")).to_contain_text("No Moon in the way.")


def test_a_southern_night(empty_server, new_page):
    cape = {"latitude_deg": -34, "longitude_deg": 19, "zone": "Africa/Johannesburg",
            "dark_sky_class": 3}  # fmt: skip
    page = begin(empty_server, new_page, cape, LARGE)
    expect(rows(page).filter(has_text="NGC 5139")).to_have_count(1)
    find(page, "NGC 104")
    tucana = about(page, "NGC 104")
    expect(tucana).to_contain_text("globular cluster, Tuc")
    expect(tucana.get_by_role("img", name=re.compile("^By eye: From Achernar"))).to_be_visible()
    find(page, "Polaris")
    expect(about(page, "Polaris")).to_contain_text("Below the horizon all night")


def test_a_night_in_which_nothing_shows(empty_server, new_page):
    wall = [{"azimuth_deg": 0, "altitude_deg": 90}, {"azimuth_deg": 180, "altitude_deg": 90}]
    page = begin(empty_server, new_page, {"skyline": wall})
    expect(page.get_by_text("Nothing stands clear of your skyline tonight")).to_be_visible()
    page.get_by_role("button", name="Plan the evening").click()
    expect(page.get_by_text("Nothing planned yet")).to_be_visible()
    page.get_by_role("button", name="Print, save").click()
    expect(page.get_by_text("plan the evening first")).to_be_visible()
    page.get_by_role("button", name="Close", exact=True).click()
    page.request.post(
        f"{empty_server.url}/api/evening/sites",
        data={"name": "Far north", "latitude_deg": 78, "longitude_deg": 15, "zone": "UTC"},
    )
    north = page.request.get(f"{empty_server.url}/api/evening/sites").json()[0]
    page.request.patch(
        f"{empty_server.url}/api/evening", data={"site_id": north["id"], "date": "2027-06-21"}
    )
    page.reload()
    expect(
        page.get_by_text(re.compile("The Sun does not set|the Sun never sets")).first
    ).to_be_visible()
    expect(page.get_by_text(re.compile("^Stay in")).first).to_be_visible()
