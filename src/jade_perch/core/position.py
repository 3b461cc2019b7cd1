"""A position as people have it at hand: a link to a map, a geo: address, degrees in any form."""

import re
from urllib.parse import unquote

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen

DECIMAL = r"[-+]?\d{1,3}\.\d+"
NUMBER = r"[-+]?\d{1,3}(?:\.\d+)?"
CURE = "Paste a map link, a geo: address, or type such as 48° 42′ N 8° 6′ E."
ALLOWED = "latitude -90 to 90 °, then longitude -180 to 180 °"
ANGLE = re.compile(
    r"(?P<before>[NSEW])?\s*(?P<sign>[-+])?(?P<deg>\d{1,3}(?:\.\d+)?)\s*°?\s*"
    r"(?:(?P<min>\d{1,2}(?:\.\d+)?)\s*')?\s*(?:(?P<sec>\d{1,2}(?:\.\d+)?)\s*\")?\s*"
    r"(?P<after>[NSEW])?",
    re.IGNORECASE,
)


class Position(Frozen):
    """A place on the Earth, WGS84, north and east positive, and said back in words."""

    latitude_deg: float
    longitude_deg: float
    words: str


def read_position(text: str) -> Position:
    """Return a position pasted or typed, north and east positive, in degrees.

    Understood are geo: addresses, links that carry two decimal degrees, and latitude before
    longitude in degrees, minutes and seconds with N, S, E or W.  Raises ``OutOfRange`` for text
    that holds no such pair.

    Source: rules.md#place; RFC 5870 for geo: addresses.
    """
    plain = unquote(text.strip()).replace("−", "-").replace("–", "-")
    found = _of_address(plain) if re.match(r"(?i)(geo:|[a-z]+://|www\.)", plain) else _typed(plain)
    if found is None or not (-90 <= found[0] <= 90 and -180 <= found[1] <= 180):
        raise OutOfRange("position", text, ALLOWED, CURE)
    return Position(latitude_deg=found[0], longitude_deg=found[1], words=_words(*found))


def _of_address(text: str) -> tuple[float, float] | None:
    """Return the pair an address carries: named parts first, else the first two neighbours."""
    named = [
        re.search(rf"(?i)(?:^|[?&#/;])(?:{name})=({NUMBER})", text)
        for name in (r"m?lat(?:itude)?", r"m?lon(?:g|gitude)?|m?lng")
    ]
    if named[0] and named[1]:
        return float(named[0].group(1)), float(named[1].group(1))
    geo = re.match(rf"(?i)geo:({NUMBER}),({NUMBER})", text)
    pair = geo or re.search(rf"({DECIMAL})\s*[,/+ ]\s*({DECIMAL})", text)
    return (float(pair.group(1)), float(pair.group(2))) if pair else None


def _typed(text: str) -> tuple[float, float] | None:
    """Return latitude and longitude typed one after the other."""
    signs = text.replace("′", "'").replace("’", "'").replace("″", '"').replace("”", '"')
    signs = re.sub(r"(\d),(\d)", r"\1.\2", signs) if signs.count(",") != 1 else signs
    found = [one for one in ANGLE.finditer(signs) if one.group("deg")]
    if len(found) != 2:
        return None
    values = [_degrees(one) for one in found]
    sides = [_side(one) for one in found]
    if any(value is None for value in values):
        return None
    first, second = values
    is_turned = sides[0] in ("E", "W") or sides[1] in ("N", "S")
    pair = (second, first) if is_turned else (first, second)
    return (pair[0] or 0.0, pair[1] or 0.0)


def _side(one: "re.Match[str]") -> str:
    return (one.group("before") or one.group("after") or "").upper()


def _degrees(one: "re.Match[str]") -> float | None:
    minutes, seconds = float(one.group("min") or 0), float(one.group("sec") or 0)
    if minutes >= 60 or seconds >= 60:
        return None
    size = float(one.group("deg")) + minutes / 60 + seconds / 3600
    return -size if one.group("sign") == "-" or _side(one) in ("S", "W") else size


def _words(latitude_deg: float, longitude_deg: float) -> str:
    north, east = "N" if latitude_deg >= 0 else "S", "E" if longitude_deg >= 0 else "W"
    return f"{abs(latitude_deg):.4f}° {north}, {abs(longitude_deg):.4f}° {east}"
