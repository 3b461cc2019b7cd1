"""What is measured of a page as it stands, in words that say where it is wrong."""

import io
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Page

HERE = Path(__file__).parent
AXE = HERE.parents[1] / "frontend/node_modules/axe-core/axe.min.js"
MOST_GREEN_OR_BLUE = 8  # of 255; anything more spoils eyes used to the dark
LEAST_RED = 200  # of 255: a screen on which nothing is shown is no proof
LEAST_TARGET_PX, LEAST_DARK_PX = 24, 48
LEAST_EDGE = 3.0  # contrast of what shows where a field or chip is
RUN_AXE = """async () => {
  const found = await axe.run(document, {
    resultTypes: ['violations'], rules: { 'label-content-name-mismatch': { enabled: true } } })
  const why = node => node.failureSummary.split('\\n').slice(1).join(';').slice(0, 160)
  return found.violations.flatMap(one => one.nodes.map(node =>
    `${one.id}: ${node.target.join(' ')} ${why(node)}`))
}"""

Found = dict[str, list[str]]


def prepare(page: Page) -> None:
    """Put the measures into a page; again after it was loaded anew."""
    if page.evaluate("!!window.measures && !!window.axe"):
        return
    page.evaluate(AXE.read_text())
    page.evaluate((HERE / "measures.js").read_text())


def pixels(page: Page) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(page.screenshot())).convert("RGB"))


def assert_red_alone(page: Page, where: str) -> None:
    """Fail where a pixel is not red alone, or nothing is shown at all."""
    page.evaluate("document.fonts.ready")  # words are not painted before their type is there
    shot = pixels(page)
    assert shot[..., 1:].max() <= MOST_GREEN_OR_BLUE, where
    assert shot[..., 0].max() > LEAST_RED, f"{where} shows nothing at all"


def measured(page: Page, regime: str) -> Found:
    """Return what is wrong with a page as it stands, by measure; nothing where it is well."""
    prepare(page)
    dark = regime == "dark"
    found: Found = {
        "axe": page.evaluate(RUN_AXE),
        "target": page.evaluate(f"measures.small({LEAST_DARK_PX if dark else LEAST_TARGET_PX})"),
        "tooltip": page.evaluate("measures.tooltips()"),
        "edge": page.evaluate(f"measures.edges({LEAST_EDGE})"),
        "cut": page.evaluate("measures.cut()"),
        "collision": page.evaluate("measures.collisions()"),
    }
    if dark:
        most = int(pixels(page)[..., 1:].max())
        found["green or blue"] = [str(most)] if most > MOST_GREEN_OR_BLUE else []
    page.keyboard.press("Shift")
    found["focus"] = page.evaluate("measures.unfocused()")
    return {name: places for name, places in found.items() if places}
