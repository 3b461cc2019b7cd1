"""Build the catalogue that ships, from OpenNGC and Hipparcos; run by ``make catalogue``.

Sources: Hipparcos, the new reduction (van Leeuwen 2007), public domain; OpenNGC, CC BY-SA 4.0.
The result is the same to the byte for the same sources.
"""

import csv
import math
import sqlite3
import sys
from collections.abc import Iterable
from pathlib import Path

import numpy as np
import pyongc
from skyfield.api import load_constellation_map, load_constellation_names, position_of_radec

import catalogue_stars

OUT = Path(__file__).parents[1] / "src/jade_perch/core/sky/data"
# Fainter in total light nothing but a star is seen with 400 mm under the darkest sky.
FAINTEST_OBJECT_MAG = 15.5
COLUMNS = (
    "label", "name", "also", "kind", "constellation", "ra_deg", "dec_deg", "magnitude",
    "major_arcmin", "minor_arcmin", "position_angle_deg", "separation_arcsec", "companion_mag",
    "core_share", "third_star_mag",
)  # fmt: skip
KIND_OF_TYPE = {
    "G": "galaxy",
    "GPair": "galaxy",
    "GTrpl": "galaxy",
    "GGroup": "galaxy",
    "OCl": "open cluster",
    "Cl+N": "cluster with nebula",
    "*Ass": "star cloud",
    "GCl": "globular cluster",
    "PN": "planetary nebula",
    "Neb": "nebula",
    "HII": "nebula",
    "RfN": "nebula",
    "EmN": "nebula",
    "SNR": "supernova remnant",
    "**": "double star",
    "Other": "asterism",
}
CLUSTERS = ("open cluster", "cluster with nebula", "star cloud", "asterism")
USUAL_COLOUR = {"galaxy": 0.8, "open cluster": 0.4}  # B - V where only B is known
# Share of the light in the middle tenth of the diameter, by the first letters of the Hubble type:
# a de Vaucouleurs profile for ellipticals, an exponential disc for late spirals.
CORE_SHARE = (
    ("E", 0.20), ("S0", 0.15), ("Sa", 0.11), ("Sb", 0.08), ("Sc", 0.045), ("Sd", 0.035),
    ("Sm", 0.03), ("I", 0.03),
)  # fmt: skip
# The classic list's 102nd entry is most often taken to be this galaxy.
CLASSIC = {"NGC5866": 102}
# Names by which some of those that are not in the New General Catalogue are known.
LABELS = {"ESO056-115": "LMC", "NGC0292": "SMC", "Cl399": "Cr 399", "C041": "Mel 25"}
# What the source leaves open, or has for something larger: sizes in arcmin, total magnitudes;
# rounded values of the observing literature.
GIVEN: dict[str, dict[str, object]] = {
    "M24": {"major_arcmin": 90.0, "minor_arcmin": 60.0, "magnitude": 4.6},
    "M25": {"major_arcmin": 30.0, "minor_arcmin": 30.0, "magnitude": 4.6},
    "M40": {
        "separation_arcsec": 53.0,
        "position_angle_deg": 77,
        "magnitude": 9.7,
        "companion_mag": 10.1,
    },
    "M73": {"major_arcmin": 2.8, "minor_arcmin": 2.8, "magnitude": 9.0},
    "M42": {"magnitude": 4.0},
    "M43": {"magnitude": 9.0, "major_arcmin": 6.0, "minor_arcmin": 5.0},
    "M76": {"major_arcmin": 2.7, "minor_arcmin": 1.8},
    "M77": {"core_share": 0.2},
    "M110": {"core_share": 0.05},
    "M16": {"magnitude": 6.0, "kind": "cluster with nebula"},
    "M8": {"magnitude": 5.0, "major_arcmin": 45.0, "minor_arcmin": 30.0},
    "M17": {"magnitude": 6.0},
    "M20": {"magnitude": 6.3},
    "M78": {"magnitude": 8.3},
    "M1": {"magnitude": 8.4},
    "NGC 869": {"major_arcmin": 18.0, "minor_arcmin": 18.0},
    "NGC 884": {"major_arcmin": 18.0, "minor_arcmin": 18.0},
    "NGC 1499": {"magnitude": 6.0},
    "NGC 2070": {"magnitude": 8.0},
    "NGC 2237": {"magnitude": 6.0},
    "NGC 3372": {"magnitude": 3.0},
    "NGC 5139": {"major_arcmin": 36.0, "minor_arcmin": 36.0, "magnitude": 3.9},
    "NGC 6888": {"magnitude": 10.0},
    "NGC 7000": {"major_arcmin": 120.0, "minor_arcmin": 100.0, "magnitude": 5.0},
    "NGC 6960": {"major_arcmin": 70.0, "minor_arcmin": 6.0},
    "Mel 25": {"major_arcmin": 330.0, "minor_arcmin": 330.0, "magnitude": 0.5},
    "Mel 111": {"magnitude": 1.8},
}
OBJECTS = """
SELECT name, type, ra, dec, const, majax, minax, pa, bmag, vmag, hubble, messier, commonnames
  FROM objects
 WHERE type NOT IN ('Dup', 'NonEx')
"""


def named(entry: str) -> str:
    """Return ``NGC 869`` for the source's ``NGC0869``, ``Mel 22`` for ``Mel022``."""
    head = entry.rstrip("0123456789")
    return f"{head} {int(entry[len(head) :])}" if entry[len(head) :].isdigit() else entry


def label_of(row: sqlite3.Row) -> str:
    classic = row["messier"] or CLASSIC.get(row["name"])
    return f"M{int(classic)}" if classic else LABELS.get(row["name"]) or named(row["name"])


def light_of(row: sqlite3.Row, kind: str) -> float | None:
    """Return the total V magnitude; one fainter than in blue light cannot be right."""
    blue = None if row["bmag"] is None else row["bmag"] - USUAL_COLOUR.get(kind, 0.0)
    if row["vmag"] is None or (kind == "galaxy" and blue and row["vmag"] > row["bmag"] + 0.1):
        return blue
    return float(row["vmag"])


def core_share(hubble: str, kind: str) -> float | None:
    if kind != "galaxy":
        return None
    plain = (hubble or "").replace("AB", "").replace("B", "", 1)
    return next((share for head, share in CORE_SHARE if plain.startswith(head)), None)


def object_rows() -> list[dict[str, object]]:
    """Return the classic list and everything a large telescope could show, sizes in arcmin."""
    db = sqlite3.connect(Path(pyongc.__file__).parent / "ongc.db")
    db.row_factory = sqlite3.Row
    found = {}
    for row in db.execute(OBJECTS):
        label, kind = label_of(row), KIND_OF_TYPE.get(row["type"])
        is_classic = label[0] == "M" and label[1:].isdigit()
        if kind is None and not is_classic:
            continue
        kind = kind or "nebula"
        common = (row["commonnames"] or "").split(",")[0]
        magnitude, size = light_of(row, kind), row["majax"]
        values: dict[str, object] = {
            "label": label,
            "name": "" if common == label else common,
            "also": named(row["name"]) if label != named(row["name"]) else "",
            "kind": kind,
            "constellation": row["const"],
            "ra_deg": round(math.degrees(row["ra"]), 4),
            "dec_deg": round(math.degrees(row["dec"]), 4),
            "magnitude": None if magnitude is None else round(magnitude, 2),
            "major_arcmin": size,
            "minor_arcmin": row["minax"] or size,
            "position_angle_deg": row["pa"],
            "core_share": core_share(row["hubble"], kind),
        } | GIVEN.get(label, {})
        if is_classic or label in GIVEN or is_wanted(values):
            found[label] = values
    return sorted(found.values(), key=order)


def is_wanted(values: dict[str, object]) -> bool:
    """Whether an object of the source outside the classic list ships."""
    if values["kind"] in ("asterism", "double star"):
        return bool(values["name"] and values["magnitude"] and values["major_arcmin"])
    magnitude = values["magnitude"]
    is_known = bool(values["major_arcmin"]) and (magnitude is not None or bool(values["name"]))
    return is_known and (magnitude is None or float(str(magnitude)) <= FAINTEST_OBJECT_MAG)


def order(values: dict[str, object]) -> tuple[object, ...]:
    """The classic list first, then by catalogue and number."""
    label = str(values["label"])
    head = label.rstrip("0123456789")
    number = int(label[len(head) :] or 0)
    catalogues = ("M", "NGC ", "IC ", "Mel ")
    rank = catalogues.index(head) if head in catalogues else len(catalogues)
    return rank, head, number


def add_members(rows: Iterable[dict[str, object]], stars: dict[int, catalogue_stars.Star]) -> None:
    """Give clusters the magnitude of their third star, where the star catalogue has it.

    Counted inside the cluster's circle, less what the sky around it has of the same brightness.
    """
    numbers = catalogue_stars.bright(stars)
    ra = np.radians([stars[n].ra_deg for n in numbers])
    dec = np.radians([stars[n].dec_deg for n in numbers])
    magnitudes = np.array([stars[n].v_mag for n in numbers])
    for row in rows:
        if row["kind"] not in CLUSTERS or not row["major_arcmin"]:
            continue
        ra0, dec0 = (
            math.radians(float(str(row["ra_deg"]))),
            math.radians(float(str(row["dec_deg"]))),
        )
        cosine = np.sin(dec) * math.sin(dec0) + np.cos(dec) * math.cos(dec0) * np.cos(ra - ra0)
        away = np.degrees(np.arccos(np.clip(cosine, -1, 1)))
        radius = float(str(row["major_arcmin"])) / 120
        far = max(4 * radius, 2.0)
        inside, around = away <= radius, (away > 1.5 * radius) & (away <= far)
        share = radius**2 / (far**2 - (1.5 * radius) ** 2)
        for magnitude in magnitudes[inside]:
            bright = magnitudes <= magnitude
            if (inside & bright).sum() - share * (around & bright).sum() >= 3:
                row["third_star_mag"] = round(float(magnitude), 1)
                break


def main() -> int:
    OUT.mkdir(parents=True, exist_ok=True)
    stars = catalogue_stars.read_stars()
    count = catalogue_stars.write_stars(stars, OUT / "stars.npz")
    objects = object_rows()
    add_members(objects, stars)
    doubles, singles = catalogue_stars.double_rows(stars), catalogue_stars.single_rows(stars)
    constellation = load_constellation_map()
    for row in (*doubles, *singles):
        place = position_of_radec(float(str(row["ra_deg"])) / 15, float(str(row["dec_deg"])))
        row["constellation"] = str(constellation(place))
    with (OUT / "objects.csv").open("w", encoding="utf-8", newline="") as file:
        writer = csv.DictWriter(file, COLUMNS, lineterminator="\n")
        writer.writeheader()
        writer.writerows([*objects, *doubles, *singles])
    with (OUT / "constellations.csv").open("w", encoding="utf-8", newline="") as file:
        pairs = csv.writer(file, lineterminator="\n")
        pairs.writerow(("letters", "name"))
        pairs.writerows(sorted(load_constellation_names()))
    labels = {row["label"] for row in objects}
    missing = [f"M{n}" for n in range(1, 111) if f"M{n}" not in labels]
    print(f"{count} stars, {len(objects)} objects, {len(doubles)} doubles, {len(singles)} named")
    print("missing from the classic list:", missing or "none")
    return 1 if missing else 0


if __name__ == "__main__":
    sys.exit(main())
