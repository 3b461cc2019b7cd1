"""How dark a place is, by three plain questions."""

from dataclasses import dataclass
from typing import Annotated, Literal

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Choice, Frozen, Range, choices
from jade_perch.core.sky.brightness import CLASS_MPSAS, mpsas_of_limit
from jade_perch.core.sums import Sum

MilkyWay = Literal["lanes", "plain", "overhead", "none"]
Glow = Literal["none", "one_side", "around", "grey"]
FigureName = Literal["little_bear", "seven_sisters", "southern_cross"]
ALL_SEEN_MAG = 0.6  # so much fainter one may see when every star of a figure is there; our estimate
TROPIC_DEG = 23.0  # nearer to the equator neither pole's figure stands high
COUNT_WEIGHT = 2.0  # a count is worth two looks; our estimate


@dataclass(frozen=True, slots=True)
class Figure:
    """A bright figure whose stars are counted: magnitudes from the brightest on."""

    words: str
    magnitudes: tuple[float, ...]


# Hipparcos magnitudes
FIGURES: dict[FigureName, Figure] = {
    "little_bear": Figure(
        "the seven stars of the Little Bear", (1.97, 2.07, 3.00, 4.21, 4.29, 4.35, 4.95)
    ),
    "seven_sisters": Figure(
        "the Seven Sisters", (2.85, 3.62, 3.72, 3.87, 4.14, 4.30, 5.05, 5.45, 5.65, 5.76)
    ),
    "southern_cross": Figure(
        "the five stars of the Southern Cross", (0.77, 1.25, 1.59, 2.79, 3.59)
    ),
}
# mag/arcsec² that goes with each answer, good to about half a class: our estimates
MILKY_WAY: dict[MilkyWay, float] = {"lanes": 21.6, "plain": 20.9, "overhead": 20.0, "none": 18.5}
MILKY_WAY_WORDS: dict[MilkyWay, str] = {
    "lanes": "bright, with dark lanes in it",
    "plain": "plain to see",
    "overhead": "faint, only overhead",
    "none": "not to be seen",
}
GLOW: dict[Glow, float] = {"none": 21.8, "one_side": 21.1, "around": 19.9, "grey": 18.3}
GLOW_WORDS: dict[Glow, str] = {
    "none": "no glow anywhere",
    "one_side": "low on one side",
    "around": "all around the horizon",
    "grey": "the whole sky is grey",
}


class DarknessInput(Frozen):
    """What was seen on a clear, moonless night; a question that was left open is None."""

    milky_way: MilkyWay | None = None
    figure: FigureName = "little_bear"
    counted: Annotated[int, Range(0, 10, "stars", "Count those you hold steadily.")] | None = None
    glow: Glow | None = None


class Darkness(Frozen):
    """The class a place belongs to, what it was found from, and the sum."""

    dark_sky_class: int
    sky_mpsas: float
    words: str
    sum: Sum


class DarknessQuestions(Frozen):
    """The three questions and their answers; ``most`` stars can be counted in each figure."""

    milky_way: list[Choice]
    figures: list[Choice]
    usual_figure: FigureName
    most: dict[str, int]
    glow: list[Choice]


def darkness_questions(latitude_deg: float | None = None) -> DarknessQuestions:
    """Return the questions in words, with the figure that is best up at a latitude.

    Source: rules.md#sky-brightness; the Little Bear never sets from the northern tropic on.
    """
    is_south = latitude_deg is not None and latitude_deg < 0
    usual: FigureName = "southern_cross" if is_south else "little_bear"
    if latitude_deg is not None and abs(latitude_deg) < TROPIC_DEG:
        usual = "seven_sisters"
    return DarknessQuestions(
        usual_figure=usual,
        milky_way=choices(MILKY_WAY_WORDS),
        figures=choices({name: one.words for name, one in FIGURES.items()}),
        most={name: len(one.magnitudes) for name, one in FIGURES.items()},
        glow=choices(GLOW_WORDS),
    )


def limit_of_count(figure: FigureName, counted: int) -> float:
    """Return the naked-eye limit in magnitudes that goes with so many stars of a figure.

    It lies between the faintest one seen and the brightest one not seen.  Raises ``OutOfRange``
    for more stars than there are.

    Source: rules.md#sky-brightness; Hipparcos magnitudes.
    """
    stars = FIGURES[figure].magnitudes
    if counted > len(stars):
        cure = f"{FIGURES[figure].words[:1].upper()}{FIGURES[figure].words[1:]} are no more."
        raise OutOfRange("counted", counted, f"0 to {len(stars)} stars", cure)
    if counted == 0:
        return stars[0] - ALL_SEEN_MAG
    seen = stars[counted - 1]
    return seen + ALL_SEEN_MAG if counted == len(stars) else (seen + stars[counted]) / 2


def judge_darkness(given: DarknessInput) -> Darkness:
    """Return the class of a place from the answers that were given.

    Raises ``OutOfRange`` where no question was answered.

    Source: rules.md#sky-brightness; the weights are our estimates.
    """
    found: list[tuple[str, float, float]] = []
    if given.milky_way is not None:
        words = f"Milky Way {MILKY_WAY_WORDS[given.milky_way]}"
        found.append((words, MILKY_WAY[given.milky_way], 1.0))
    if given.counted is not None:
        limit = limit_of_count(given.figure, given.counted)
        words = f"{given.counted} of {FIGURES[given.figure].words}, so stars to {limit:.1f} mag"
        found.append((words, mpsas_of_limit(limit), COUNT_WEIGHT))
    if given.glow is not None:
        found.append((GLOW_WORDS[given.glow], GLOW[given.glow], 1.0))
    if not found:
        raise OutOfRange("milky_way", None, "an answer to one question at least", "Answer one.")
    weight = sum(one[2] for one in found)
    mpsas = sum(value * share for _, value, share in found) / weight
    best = min(CLASS_MPSAS, key=lambda one: abs(CLASS_MPSAS[one] - mpsas))
    return Darkness(
        dark_sky_class=best,
        sky_mpsas=mpsas,
        words=f"Class {best} of 9, about {mpsas:.1f} mag/arcsec².",
        sum=Sum(
            title="Darkness",
            formula="mean of what each answer stands for, a count twice",
            worked="; ".join(f"{words}: {value:.1f}" for words, value, _ in found),
            result=f"{mpsas:.1f} mag/arcsec², class {best}",
            source="Knoll, Tousey and Hulburt for the count; the others our estimates",
            rule="sky-brightness",
            sureness="estimate",
            note="Half a class either way; a meter's reading wins over it.",
        ),
    )
