"""Turn the type of the pages into the two plain faces that printed cards embed.

Run by ``make card-font`` after the front end's packages are installed; needs fonttools and brotli.
"""

from pathlib import Path

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parents[1]
FILES = ROOT / "frontend/node_modules/@fontsource-variable/atkinson-hyperlegible-next/files"
OUT = ROOT / "src/jade_perch/exchange/data"
WEIGHTS = {"regular": 400, "bold": 700}
SUBSETS = ("latin", "latin-ext")


def plain(subset: str, weight: int) -> TTFont:
    font = TTFont(FILES / f"atkinson-hyperlegible-next-{subset}-wght-normal.woff2")
    font.flavor = None
    made = instantiateVariableFont(font, {"wght": weight})
    for table in ("GSUB", "GPOS", "GDEF", "STAT", "HVAR", "MVAR"):
        if table in made:
            del made[table]
    return made


def main() -> None:
    for name, weight in WEIGHTS.items():
        parts = []
        for subset in SUBSETS:
            part = OUT / f"{subset}.ttf"
            plain(subset, weight).save(part)
            parts.append(part)
        merged = Merger().merge([str(part) for part in parts])
        merged["head"].modified = merged["head"].created
        merged.save(OUT / f"card-{name}.ttf")
        for part in parts:
            part.unlink()


if __name__ == "__main__":
    main()
