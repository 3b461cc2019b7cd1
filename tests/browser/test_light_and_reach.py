"""Readable in every light, nothing from elsewhere, and what a page says to a screen reader."""

import re
import time

import pytest
from playwright.sync_api import Page, expect

from .conftest import PATIENCE_MS, STATIONS, go_to_station
from .test_setup import go_to, read_a_bubble

REGIMES = ["daylight", "dusk", "dark"]
HALF_BRIGHT = "rgb(127, 127, 127)"
LEAST_CONTRAST = 4.5  # WCAG 2.2, criterion 1.4.3
FEWEST_WORDS = 15  # of any station; with fewer there is nothing to judge yet

CONTRASTS = """() => {
  const parse = text => {
    const [r, g, b, a = 1] = text.match(/[\\d.]+/g).map(Number)
    const full = text.startsWith('color(') ? 255 : 1
    return { r: r * full, g: g * full, b: b * full, a }
  }
  const mix = (top, under) => ({
    r: top.r * top.a + under.r * (1 - top.a),
    g: top.g * top.a + under.g * (1 - top.a),
    b: top.b * top.a + under.b * (1 - top.a),
    a: 1,
  })
  const light = ({ r, g, b }) => {
    const [x, y, z] = [r, g, b].map(v => v / 255)
      .map(v => v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
    return 0.2126 * x + 0.7152 * y + 0.0722 * z
  }
  const ground = element => {
    const layers = []
    for (let at = element; at; at = at.parentElement) {
      const style = getComputedStyle(at)
      if (style.backgroundImage !== 'none') return null
      layers.push(parse(style.backgroundColor))
      if (layers.at(-1).a === 1) break
    }
    return layers.reverse().reduce((under, top) => mix(top, under), { r: 0, g: 0, b: 0, a: 1 })
  }
  const words = []
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  while (walker.nextNode()) {
    const text = walker.currentNode.textContent.trim()
    const element = walker.currentNode.parentElement
    const box = element.getBoundingClientRect()
    const skipped = 'svg, [disabled], .v-btn--disabled, script, style'
    if (!text || element.closest(skipped) || !box.width) continue
    let opacity = 1
    for (let at = element; at; at = at.parentElement) {
      opacity *= Number(getComputedStyle(at).opacity)
    }
    const under = ground(element)
    if (!under || opacity < 0.1) continue
    const style = getComputedStyle(element)
    const over = parse(style.color)
    const shown = mix({ ...over, a: over.a * opacity }, under)
    const [high, low] = [light(shown), light(under)].sort((a, b) => b - a)
    words.push([text.slice(0, 30), (high + 0.05) / (low + 0.05)])
  }
  return words
}"""


def faint_words(page: Page) -> list[str]:
    # what a station shows comes after its heading; only then is there something to judge
    deadline = time.monotonic() + PATIENCE_MS / 1000
    while len(words := page.evaluate(CONTRASTS)) <= FEWEST_WORDS and time.monotonic() < deadline:
        page.get_by_role("main").inner_text()
    assert len(words) > FEWEST_WORDS
    return [f"{text} {ratio:.2f}" for text, ratio in words if ratio < LEAST_CONTRAST]


@pytest.mark.parametrize("regime", REGIMES)
def test_every_word_stands_out_in_every_light(demo_server, new_page, regime):
    page = new_page(f"{demo_server.url}/kit", regime=regime)
    for station in STATIONS:
        go_to_station(page, station)
        assert faint_words(page) == [], station
    go_to_station(page, "setup")
    for step in ("Put together", "Level", "Sun guard", "Finder", "Minutes in the field"):
        go_to(page, step)
        assert faint_words(page) == [], step


def test_nothing_is_asked_of_any_other_host(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    for station in [*STATIONS[1:], STATIONS[0], "setup"]:
        go_to_station(page, station)
    read_a_bubble(page)
    page.get_by_role("button", name="Live level").click()
    expect(page.get_by_role("status").filter(has_text="Reading")).to_be_visible()
    elsewhere = [url for url in asked if not url.startswith((demo_server.url, "data:", "blob:"))]
    assert elsewhere == []
    for station in STATIONS:
        own = re.compile(f"/(api/{station}|assets/{station.title()}Station)")
        assert any(own.search(url) for url in asked), station


def test_every_control_has_a_name_and_every_page_one_main(demo_server, new_page):
    page = new_page(f"{demo_server.url}/kit")
    for station in STATIONS:
        go_to_station(page, station)
        expect(page.get_by_role("main")).to_have_count(1)
        nameless = page.evaluate(
            """() => [...document.querySelectorAll('button, a[href], input, [role=button]')]
                .filter(e => e.getBoundingClientRect().width && !e.closest('[aria-hidden=true]'))
                .filter(e => !(e.textContent.trim() || e.getAttribute('aria-label')
                    || e.labels?.length || e.getAttribute('aria-labelledby')
                    || e.querySelector('title') || e.getAttribute('title')))
                .map(e => e.outerHTML.slice(0, 120))"""
        )
        assert nameless == [], station


def test_the_brightness_goes_down_and_is_remembered(demo_server, new_page):
    page = new_page(f"{demo_server.url}/plan", regime="dusk")
    page.get_by_role("button", name="Dusk").click()
    slider = page.locator(".v-overlay").get_by_role("slider")
    slider.focus()
    for _ in range(10):
        page.keyboard.press("ArrowLeft")
    expect(page.locator(".pane")).to_have_css("background-color", HALF_BRIGHT)
    page.reload()
    expect(page.locator(".pane")).to_have_css("background-color", HALF_BRIGHT)
    page.evaluate("localStorage.removeItem('jade-perch.brightness')")
