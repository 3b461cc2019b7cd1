"""What is printed on things, read as it stands there: telescopes, eyepieces, Barlows."""

import re

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Label, Name, range_of
from jade_perch.core.finders import FINDER_TRAITS
from jade_perch.core.kit import (
    FASTEST_FOCAL_RATIO,
    SLOWEST_FOCAL_RATIO,
    Amplifier,
    Design,
    Eyepiece,
    Finder,
    FinderKind,
    Mount,
    MountKind,
    Telescope,
)
from jade_perch.core.mounts import TRAITS

NUMBER = r"\d+(?:[.,]\d+)?"
APERTURE = range_of(Telescope, "aperture_mm")
EYEPIECE = range_of(Eyepiece, "focal_length_mm")
FACTOR = range_of(Amplifier, "factor")
USUAL_SLOWEST = 16.0  # focal ratio; slower telescopes are rare, and their labels spelled out
MOST_EYEPIECES = 12  # more are typed one by one


class TelescopeLabel(Frozen):
    """A telescope's two numbers as its label gives them, in mm, and both said back."""

    aperture_mm: float
    focal_length_mm: float
    words: str


class Box(Frozen):
    """What came in one box, as it is printed and seen: enough to put a first kit on the bench.

    ``printed`` is the telescope's label, ``eyepieces`` the numbers on them, such as "25, 10",
    ``barlow`` the number before its ×; empty for none.
    """

    printed: Name
    design: Design = "newtonian"
    mount_kind: MountKind
    finder_kind: FinderKind | None = None
    eyepieces: Label = ""
    barlow: Label = ""


class BoxRead(Frozen):
    """A box said back, and the things it makes."""

    words: str
    telescope: Telescope
    mount: Mount
    finder: Finder | None
    eyepieces: list[Eyepiece]
    amplifier: Amplifier | None


def _plain(number: str) -> float:
    return float(number.replace(",", "."))


def read_telescope(printed: str) -> TelescopeLabel:
    """Return aperture and focal length from a label such as 105/480, D=105 F=480 or 105480.

    The smaller number is the aperture.  A focal ratio (f/5) may stand for one of the two.
    Raises ``OutOfRange`` for a label that does not give both.

    Source: rules.md#labels.
    """
    found = _two_numbers(printed)
    if found is None:
        cure = "Type it as it stands there, such as 105/480 or D=105 F=480."
        raise OutOfRange("printed", printed, "an aperture and a focal length in mm", cure)
    aperture, focal = sorted(found)
    ratio = focal / aperture
    return TelescopeLabel(
        aperture_mm=aperture,
        focal_length_mm=focal,
        words=f"{aperture:g} mm aperture, {focal:g} mm focal length, f/{ratio:.1f}",
    )


def _is_pair(aperture: float, focal: float) -> bool:
    low, high = sorted((aperture, focal))
    return (
        APERTURE.low <= low <= APERTURE.high
        and FASTEST_FOCAL_RATIO <= high / low <= SLOWEST_FOCAL_RATIO
    )


def _two_numbers(printed: str) -> tuple[float, float] | None:
    ratio = re.search(rf"(?i)\bf\s*/\s*({NUMBER})", printed)
    rest = re.sub(rf"(?i)\bf\s*/\s*{NUMBER}", " ", printed)
    numbers = [_plain(one) for one in re.findall(NUMBER, rest)]
    sizes = [one for one in numbers if one >= APERTURE.low]
    for n, one in enumerate(sizes):
        for other in sizes[n + 1 :]:
            if _is_pair(one, other):
                return one, other
    if ratio and len(sizes) == 1:
        return _by_ratio(sizes[0], _plain(ratio.group(1)), printed)
    runs = [one for one in re.findall(r"\d+", rest) if 5 <= len(one) <= 8]
    return _run_together(runs[0]) if len(runs) == 1 else None


def _by_ratio(size: float, ratio: float, printed: str) -> tuple[float, float] | None:
    """Return both numbers from one of them and a focal ratio; F= says it is the focal length."""
    is_focal = re.search(rf"(?i)\bf(?:ocal)?\s*=\s*{NUMBER}", printed) is not None
    pair = (size / ratio, size) if is_focal else (size, size * ratio)
    return pair if _is_pair(*pair) else None


def _run_together(digits: str) -> tuple[float, float] | None:
    """Return the two numbers of a run of digits such as 105480 or 70700, if one split fits best.

    Labels end in a round focal length and begin with two or three digits of aperture.
    """
    splits = [
        (float(digits[:n]), float(digits[n:]))
        for n in (2, 3)
        if digits[n] != "0" and _is_pair(float(digits[:n]), float(digits[n:]))
    ]
    splits = [one for one in splits if one[0] < one[1]]
    usual = [one for one in splits if one[1] / one[0] <= USUAL_SLOWEST]
    found = usual or splits
    return found[0] if len(found) == 1 else None


def read_eyepieces(printed: str) -> list[Eyepiece]:
    """Return the eyepieces of a list of labels such as "25, 10" or "K25 SR4".

    Raises ``OutOfRange`` for a list without numbers, and for one that no eyepiece has.

    Source: rules.md#labels.
    """
    # one digit after a comma is a decimal, more are the next eyepiece
    points = re.sub(r"(\d),(\d)(?!\d)", r"\1.\2", printed)
    numbers = [_plain(one) for one in re.findall(r"\d+(?:\.\d+)?", points)]
    if printed.strip() and not 0 < len(numbers) <= MOST_EYEPIECES:
        cure = "Type the millimetres on each, such as 25, 10."
        raise OutOfRange("eyepieces", printed, f"1 to {MOST_EYEPIECES} numbers in mm", cure)
    wrong = [one for one in numbers if not EYEPIECE.low <= one <= EYEPIECE.high]
    if wrong:
        raise OutOfRange("eyepieces", f"{wrong[0]:g}", EYEPIECE.allowed, EYEPIECE.cure)
    kept = sorted(set(numbers), reverse=True)
    return [Eyepiece(name=f"{one:g} mm", focal_length_mm=one) for one in kept]


def read_barlow(printed: str) -> Amplifier | None:
    """Return the Barlow of a label such as 2x; None where nothing is printed.

    Raises ``OutOfRange`` for a label without a factor an amplifier may have.

    Source: rules.md#labels.
    """
    if not printed.strip():
        return None
    found = re.search(NUMBER, printed)
    factor = _plain(found.group()) if found else 0.0
    if not FACTOR.low <= factor <= FACTOR.high:
        cure = "Type the number before the × on it, or leave it empty."
        raise OutOfRange("barlow", printed, FACTOR.allowed, cure)
    return Amplifier(name=f"Barlow {factor:g}×", factor=factor)


def read_box(box: Box) -> BoxRead:
    """Return what a box makes, named after its labels; raises ``OutOfRange`` for a bad one.

    Whatever is not printed stays unknown and is taken as usual.

    Source: rules.md#labels.
    """
    label = read_telescope(box.printed)
    eyepieces, amplifier = read_eyepieces(box.eyepieces), read_barlow(box.barlow)
    name = f"{label.aperture_mm:g}/{label.focal_length_mm:g}"
    mount_traits = TRAITS[box.mount_kind]
    mount_name = f"{mount_traits.title.split(':')[0].split(',')[0]} of the {name}"
    finder = None
    if box.finder_kind is not None:
        title = FINDER_TRAITS[box.finder_kind].title.split(",")[0]
        finder = Finder(name=f"{title} of the {name}", kind=box.finder_kind)
    glass = [one.name for one in eyepieces] + ([amplifier.name] if amplifier else [])
    return BoxRead(
        words=f"{label.words}; {', '.join(glass)}" if glass else label.words,
        telescope=Telescope(
            name=name,
            aperture_mm=label.aperture_mm,
            focal_length_mm=label.focal_length_mm,
            design=box.design,
            is_new=True,
        ),
        mount=Mount(name=mount_name, kind=box.mount_kind, levelling=mount_traits.levelling),
        finder=finder,
        eyepieces=eyepieces,
        amplifier=amplifier,
    )
