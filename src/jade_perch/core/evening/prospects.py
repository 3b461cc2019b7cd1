"""What is honestly worth looking at tonight: every target judged, ranked, each with one reason."""

import re
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from jade_perch.core.arrays import Floats, Integers, rows_of
from jade_perch.core.evening.context import ListName
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.judging import (
    Gains,
    Judged,
    columns_of,
    course,
    gains,
    glasses_for,
    judge,
    thinned,
    usable_rungs,
)
from jade_perch.core.evening.prospect import (
    HIGH_COUNTS,
    MARGIN_COUNTS,
    Case,
    Prospect,
    gains_of,
    told,
    told_by_sight,
    told_hidden,
)
from jade_perch.core.evening.reasons import When
from jade_perch.core.evening.tonight import Tonight
from jade_perch.core.fields import Frozen
from jade_perch.core.kept import kept_with
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.site import Site
from jade_perch.core.sky.brightness import USUAL_CLASS
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.ephemeris import make_moment
from jade_perch.core.sky.nightsky import NightSky, make_night_sky
from jade_perch.core.sky.seen import WORDS, Glasses

LIST_TITLES: dict[ListName, str] = {
    "usual": "everything that shows",
    "first": "a first night",
    "city": "under a bright sky",
}
CITY_MPSAS = 18.8  # a sky brighter than this is a city's; class 7 and up; our choice
MOST_SHOWN = 40  # targets that show, of all that would; more nobody reads
MOST_NOT = 14  # well-known ones that do not show, and why
CLASSIC_BONUS, NAMED_BONUS, BODY_BONUS, UNSEEN_BONUS = 0.3, 0.3, 0.9, 0.1  # our choices
STAR_MALUS = -0.8  # a single star is a point in every glass; our choice
BRIGHT_BONUS, BRIGHT_MAGS = 0.25, (4.0, 9.0)  # all of it at the first magnitude, none at the last
FIRST_STARS, FIRST_SHOWPIECES = 3, 2  # of a first night; our choice
FIRST_STAR_MAG = 1.5
RANKINGS_KEPT = 8  # of a night: four telescopes, two lists
NUMBER_ONLY = re.compile(r"(NGC|IC|HIP|ESO|UGC|PGC|Mel) [\d-]+")  # a label without a name
CITY_KINDS = ("moon", "planet", "star", "double star", "open cluster", "globular cluster",
              "planetary nebula")  # fmt: skip


class Prospects(Frozen):
    """The evening's list in three groups, with the moment its places hold for.

    ``listed`` is the list that is shown, ``words`` why there is little or nothing on it, and
    ``assumed`` what it rests on that nobody said.
    """

    tonight: Tonight
    listed: ListName
    listed_title: str
    prospects: list[Prospect]
    words: str
    assumed: str


def usual_list(desk: Desk) -> ListName:
    """Return the list that suits the kit and the place, until somebody chooses another.

    Source: rules.md#prospects.
    """
    if desk.telescope is not None and desk.telescope.is_new:
        return "first"
    return "city" if desk.viewer().sky_mpsas < CITY_MPSAS else "usual"


def make_case(
    desk: Desk,
    catalogue: Catalogue,
    tonight: Tonight,
    ladder: Ladder | None,
    noted: Collection[str],
) -> Case:
    """Return what a night's targets are judged by, for a desk with a place.

    ``noted`` are the keys of what was seen before; without a ladder the eye alone is meant.

    Source: rules.md#prospects.
    """
    tonight_place = desk.place_tonight
    assert desk.place is not None and tonight_place is not None and desk.night is not None
    viewer = desk.viewer()
    rungs = usable_rungs(ladder)
    return Case(
        catalogue=catalogue,
        site=desk.place,
        night=desk.night,
        sky=make_night_sky(catalogue, tonight_place, desk.night),
        viewer=viewer,
        rungs=rungs,
        glasses=glasses_for(rungs, viewer),
        tonight=tonight,
        noted=noted,
        now_deg=make_moment(tonight.at_utc).altaz_deg(desk.place, catalogue.directions),
    )


def make_prospects(case: Case, desk: Desk, listed: ListName | None = None) -> Prospects:
    """Return tonight's targets, ranked.

    ``listed`` None takes the list that was chosen, else the one that suits kit and place.

    Source: rules.md#prospects.
    """
    shown = listed or desk.choice.listed or usual_list(desk)
    found = _prospects(case, shown)
    return Prospects(
        tonight=case.tonight,
        listed=shown,
        listed_title=LIST_TITLES[shown],
        prospects=found,
        words=_words(case, found),
        assumed="" if desk.choice.faintest_seen_mag is not None else _assumed(case.site),
    )


def _assumed(site: Site) -> str:
    known = (site.sky_mpsas, site.naked_eye_limit_mag, site.dark_sky_class)
    if any(one is not None for one in known):
        return ""
    return f"Nobody said how dark it is here: taken as class {USUAL_CLASS} of 9."


def prospect_of(case: Case, judged: Judged, row: int) -> Prospect:
    """Return one row told, from its judgement, which is empty where it cannot be looked at.

    Source: rules.md#prospects.
    """
    sight = next(
        (one for one in case.tonight.sights if one.target.key == case.catalogue.keys[row]), None
    )
    shows = judged.rows.size and judged.margin[0] >= WORDS[-1][1]
    if sight is not None and not shows:
        return told_by_sight(case, sight)
    helped = gains(case.catalogue, case.sky, judged, case.glasses, case.viewer.field_factor)
    if not shows:
        return told_hidden(case, row, gains_of(helped, 0) if judged.rows.size else None)
    looks = course(case.catalogue, case.sky, judged, case.glasses, case.viewer.field_factor)[0]
    return told(case, judged, 0, looks, helped, sight)


def _prospects(case: Case, listed: ListName) -> list[Prospect]:
    ranked = _ranked(
        case.sky,
        _Asked(
            catalogue=case.catalogue,
            glasses=columns_of(case.glasses),
            field_factor=case.viewer.field_factor,
            listed=listed,
            noted=frozenset(case.noted),
        ),
    )
    shown, helped = ranked.shown, ranked.helped
    sights = {one.target.key: one for one in case.tonight.sights}
    found = [
        told(
            case, shown, number, looks, helped, sights.get(case.catalogue.keys[shown.rows[number]])
        )
        for number, looks in enumerate(ranked.courses)
    ]
    have = {one.target.key for one in found}
    found += [told_by_sight(case, one) for one in case.tonight.sights if one.target.key not in have]
    found += [told_hidden(case, row, gained) for row, gained in ranked.hidden]
    order: dict[When, int] = {"now": 0, "later": 1, "not tonight": 2}
    return sorted(found, key=lambda one: (order[one.when], -_worth_of(case, one)))


@dataclass(frozen=True, slots=True)
class _Asked:
    """All that a ranking depends on beside the night: every moment of it asks for the same."""

    catalogue: Catalogue
    glasses: tuple[tuple[float, ...], ...]
    field_factor: float
    listed: ListName
    noted: frozenset[str]


@dataclass(frozen=True, slots=True)
class _Ranked:
    """What a list shows, with what would help it, and what it does not show: rows, and their gains.

    A row of ``hidden`` has no gains where it never can be looked at.
    """

    shown: Judged
    courses: list[tuple[Integers, Floats]]
    helped: Gains
    hidden: list[tuple[int, dict[str, float] | None]]


@kept_with(RANKINGS_KEPT)
def _ranked(sky: NightSky, asked: _Asked) -> _Ranked:
    catalogue, factor = asked.catalogue, asked.field_factor
    glasses = Glasses(*map(np.array, asked.glasses))
    tried = thinned(glasses)
    judged = judge(catalogue, sky, np.arange(len(catalogue)), tried, factor)
    rows = judged.rows[_chosen(sky, asked, judged)]
    shown = judge(catalogue, sky, rows, glasses, factor)
    return _Ranked(
        shown=shown,
        courses=course(catalogue, sky, shown, glasses, factor),
        helped=gains(catalogue, sky, shown, glasses, factor),
        hidden=_never(sky, asked, judged, tried, rows.tolist()),
    )


def _worth(sky: NightSky, asked: _Asked, judged: Judged) -> Floats:
    """Return how much each judged target is worth a look, for ranking alone."""
    catalogue = asked.catalogue
    bonus = _bonuses(catalogue)[judged.rows]
    unseen = np.array([catalogue.keys[row] not in asked.noted for row in judged.rows.tolist()])
    height = sky.altitude_deg[judged.entry] / 90
    return np.asarray(
        np.minimum(judged.margin, MARGIN_COUNTS)
        + bonus
        + UNSEEN_BONUS * unseen
        + HIGH_COUNTS * height
    )


def _worth_of(case: Case, one: Prospect) -> float:
    row = case.catalogue.row_of(one.target.key) or 0
    high = (one.best_altitude_deg or 0.0) / 90
    bonus = float(_bonuses(case.catalogue)[row])
    return min(one.margin, MARGIN_COUNTS) + bonus + HIGH_COUNTS * high


def worth_of_row(catalogue: Catalogue, row: int) -> float:
    """Return what a target is worth a place in the plan, whatever it shows tonight.

    Source: rules.md#schedule.
    """
    return 1 + float(_bonuses(catalogue)[row])


@lru_cache(maxsize=2)
def _bonuses(catalogue: Catalogue) -> Floats:
    """Return what each target is worth by its renown and its light, for ranking alone."""
    known = [CLASSIC_BONUS * is_classic(label.split()[0]) for label in catalogue.labels]
    named = [NAMED_BONUS * (NUMBER_ONLY.fullmatch(label) is None) for label in catalogue.labels]
    share = np.interp(catalogue.numbers["magnitude"], BRIGHT_MAGS, (1.0, 0.0))
    worth = np.maximum(known, named) + BRIGHT_BONUS * share
    is_star = np.array([kind == "star" for kind in catalogue.kinds], dtype=bool)
    return np.where(catalogue.is_body, BODY_BONUS, np.where(is_star, STAR_MALUS, worth))


def is_classic(label: str) -> bool:
    """Return whether a label's first word is of the classic list of 110.

    Source: rules.md#catalogue.
    """
    return label[:1] == "M" and label[1:].isdigit()


@lru_cache(maxsize=2)
def classic_rows(catalogue: Catalogue) -> tuple[int, ...]:
    """Return the rows of the classic list of 110.  Source: rules.md#catalogue."""
    return tuple(n for n, label in enumerate(catalogue.labels) if is_classic(label.split()[0]))


def _chosen(sky: NightSky, asked: _Asked, judged: Judged) -> Integers:
    """Return which of the judged targets a list shows, by number."""
    catalogue, listed = asked.catalogue, asked.listed
    worth = np.where(judged.margin >= WORDS[-1][1], _worth(sky, asked, judged), -np.inf)
    rows = judged.rows.tolist()
    kinds = np.array([catalogue.kinds[row] for row in rows])
    order = np.argsort(-worth, kind="stable")
    order = order[np.isfinite(worth[order])]
    is_body = catalogue.is_body[judged.rows]
    if listed == "first":
        stars = [n for n in order if kinds[n] == "star"
                 and catalogue.numbers["magnitude"][rows[n]] <= FIRST_STAR_MAG]  # fmt: skip
        easy = [n for n in order if not is_body[n] and kinds[n] not in ("star", "double star")
                and judged.margin[n] >= WORDS[0][1]]  # fmt: skip
        bodies = [n for n in order if is_body[n]]
        return np.array([*bodies, *stars[:FIRST_STARS], *easy[:FIRST_SHOWPIECES]], dtype=int)
    if listed == "city":
        clear = judged.margin >= WORDS[1][1]
        order = order[(np.isin(kinds[order], CITY_KINDS)) & clear[order]]
    return order[:MOST_SHOWN]


def _never(
    sky: NightSky, asked: _Asked, judged: Judged, tried: Glasses, have: Collection[int]
) -> list[tuple[int, dict[str, float] | None]]:
    """Return well-known targets that do not show tonight, the brightest first, and their gains.

    A first night is told of none.
    """
    if asked.listed == "first":
        return []
    catalogue = asked.catalogue
    at = {row: number for number, row in enumerate(judged.rows.tolist())}
    hidden = [
        row
        for row in classic_rows(catalogue)
        if row not in have and (row not in at or judged.margin[at[row]] < WORDS[-1][1])
    ]
    hidden.sort(key=lambda row: (row not in at, float(catalogue.numbers["magnitude"][row])))
    rows = hidden[:MOST_NOT]
    faint = rows_of(judged, np.array([at[row] for row in rows if row in at], dtype=int))
    helped = gains(catalogue, sky, faint, tried, asked.field_factor)
    known = {row: gains_of(helped, number) for number, row in enumerate(faint.rows.tolist())}
    return [(row, known.get(row)) for row in rows]


def _words(case: Case, found: Sequence[Prospect]) -> str:
    """Return why there is nothing to look at, and what would help; else empty."""
    if any(one.when != "not tonight" for one in found):
        return ""
    if not case.night.dark and case.night.sunset_utc is None:
        return f"{case.night.sun_words} Choose another date, or look at the Moon when it is up."
    if not case.sky.row.size:
        return "Nothing stands clear of your skyline tonight: see Place, or observe elsewhere."
    return "Nothing shows from here tonight: a darker place or a larger glass would help."
