"""What to look for at a target with this aperture: two or three honest things, easy ones first."""

from jade_perch.core.constants import DAWES_ARCSEC_MM
from jade_perch.core.evening.expect import BELTS_MM, CAP_MM, GAP_MM, Look, expected, stars_shown
from jade_perch.core.fields import Frozen
from jade_perch.core.sky.seen import NOT_SEEN, STARRY, pair_needs_arcsec

MANY_STARS = 12  # of a cluster, from which chains and gaps are worth looking for; our choice
WIDE_BELTS_MM, FINE_MARKS_MM = 110.0, 150.0  # apertures for a third belt and for Mars's marks; ours
MOON_KM = 1.9  # an arcsec at the Moon's mean distance, 384 400 km
EVEN_MAG = 0.5  # two stars nearer than this in brightness are called alike; our choice


class LookFor(Frozen):
    """One thing to look for, in at most fifteen words; ``is_hard`` wants time or a calm moment."""

    words: str
    is_hard: bool = False


def look_for(look: Look) -> list[LookFor]:
    """Return two or three things that this glass may show of a target, from easy to demanding.

    Nothing is among them that only a camera shows, and no colour.

    Source: rules.md#lookfor.
    """
    if look.word == NOT_SEEN:
        return [_easy(expected(look))]
    kind = look.target.kind
    if kind in ("moon", "Moon feature"):
        found = _moon(look)
    elif kind == "planet":
        found = _planet(look)
    elif kind == "double star":
        found = _pair(look)
    elif kind in STARRY and kind != "globular cluster":
        found = _cluster(look)
    elif kind == "star":
        found = [
            _easy("One point: is it steady, or does it boil?"),
            _hard("A little out of focus: are its rings round and even?"),
        ]
    else:
        found = _glow(look)
    return found[:3]


def _easy(words: str) -> LookFor:
    return LookFor(words=words)


def _hard(words: str) -> LookFor:
    return LookFor(words=words, is_hard=True)


def _moon(look: Look) -> list[LookFor]:
    split_km = DAWES_ARCSEC_MM / look.aperture_mm * MOON_KM
    return [
        _easy("Follow the shadow line: which craters are still filled with black?"),
        _easy("Find a lit peak in the dark, just beyond the shadow line."),
        _hard(f"Smallest crater you hold steadily: about {max(2.0, 2 * split_km):.0f} km is good."),
    ]


def _planet(look: Look) -> list[LookFor]:
    body, aperture_mm = look.target.body, look.aperture_mm
    if body == "jupiter":
        found = [_easy("Its moons: how many, and on which side?")]
        if aperture_mm >= BELTS_MM:
            found.append(_easy("Two dark belts, one above and one below the middle."))
        words = "A third belt, or an uneven edge: wait for calm moments."
        return [*found, _hard(words if aperture_mm >= WIDE_BELTS_MM else "Is the disc round?")]
    if body == "saturn":
        found = [_easy("The ring: does the disc cut it, or the ring the disc?")]
        if aperture_mm >= GAP_MM:
            found.append(_hard("A dark gap in the ring, first at its two ends."))
        return [*found, _hard("The disc's shadow on the ring behind it, a dark notch.")]
    if body == "mars":
        found = [_easy("A small disc, no star: is it round, or a little short on one side?")]
        if aperture_mm >= CAP_MM:
            found.append(_hard("A pale speck at one edge: the polar cap, in calm moments."))
        if aperture_mm >= FINE_MARKS_MM:
            found.append(_hard("A dusky patch that stays where it is when the air calms."))
        return found
    if body in ("venus", "mercury"):
        return [
            _easy("Its phase: how much of the disc is lit?"),
            _hard("Are both horns equally sharp?"),
        ]
    return [
        _easy("Which of the points is no point, but a tiny even disc?"),
        _hard("Does it stay a disc when the stars beside it are sharp?"),
    ]


def _pair(look: Look) -> list[LookFor]:
    target = look.target
    separation = target.separation_arcsec or 0.0
    first, second = target.magnitude or 0.0, target.companion_mag or 0.0
    if separation < DAWES_ARCSEC_MM / look.aperture_mm:
        return [
            _easy("One star: this aperture does not split it."),
            _hard("Is it a little long one way? Turn the head and look again."),
        ]
    alike = abs(second - first) < EVEN_MAG
    pairs = "Two stars alike: which is the brighter one?"
    uneven = "The bright star first; the fainter one stands close beside it."
    found = [_easy(pairs if alike else uneven)]
    if separation * look.magnification < pair_needs_arcsec(first, second):
        return [*found, _hard("A thin dark line between them, for a second at a time.")]
    return [*found, _hard("Which way does the fainter one lie: as a hand of a clock?")]


def _cluster(look: Look) -> list[LookFor]:
    count = stars_shown(look)
    if count < 3:
        return [
            _easy("A misty patch where the sky beside it is dark."),
            _hard("Look a little beside it: single grains of light come and go."),
        ]
    found = [_easy("How many stars at a glance? Count one quarter of it.")]
    if look.target.kind == "cluster with nebula":
        mist = "A grey mist among the stars: which way does it reach?"
        return [*found, _easy(mist), _hard("Its brightest part: is one edge sharper than another?")]
    if count >= MANY_STARS:
        found.append(_easy("Chains and gaps: what shape do the brighter stars make?"))
    return [*found, _hard("Is there a mist of fainter ones behind? Look a little beside.")]


def _glow(look: Look) -> list[LookFor]:
    target = look.target
    if target.kind == "globular cluster":
        return [
            _easy("A round glow: how fast does it brighten to the middle?"),
            _hard("Single stars at its edge, for moments, looking a little beside."),
        ]
    if target.kind == "planetary nebula":
        return [
            _easy("The star that does not sharpen: a small grey disc."),
            _easy("Look straight at it, then beside: does it seem to blink?"),
            _hard("Is its edge sharp, its middle darker?"),
        ]
    if target.kind == "galaxy":
        return [
            _easy("A grey breath that stays when you tap the tube."),
            _easy("Which way is it long, and is its middle brighter?"),
            _hard("How far out does it go, looking a little beside it?"),
        ]
    return [
        _easy("Where does the grey end and the dark sky begin?"),
        _hard("Its brightest part, and one edge sharper than the other."),
    ]
