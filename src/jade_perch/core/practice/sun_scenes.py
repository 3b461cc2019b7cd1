"""What is done rightly and wrongly with the Sun about: the steps the Sun drill is made of.

The rules are those of the checklist before a session and of the guard; a filter maker's own
instructions go before them.
"""

from dataclasses import dataclass
from typing import Literal

Topic = Literal[
    "place",
    "finder",
    "doubt",
    "fit",
    "aim",
    "leave",
    "end",
    "near",
    "home_made",
    "haze",
    "company",
    "sight",
]
# A picture is a tube with what matters on it; the page draws it.
Picture = Literal[
    "filter_front",
    "filter_eyepiece",
    "no_filter",
    "loose_filter",
    "lamp",
    "finder_off",
    "finder_open",
    "shadow",
    "eye_along",
    "alone",
    "turned_away",
    "sun_beside",
    "sun_behind",
    "company",
]


@dataclass(frozen=True, slots=True)
class SunStep:
    """One thing somebody does, as a sentence and a picture; ``why`` only where it is unsafe."""

    topic: Topic
    words: str
    picture: Picture
    why: str = ""

    @property
    def is_unsafe(self) -> bool:
        """Whether it is the step that blinds, burns or invites it.  Source: rules.md#practice."""
        return bool(self.why)


# In every round: whoever misses one of these must not open a session.
ALWAYS: tuple[Topic, ...] = ("place", "finder", "doubt", "aim", "leave", "end")
SUN_STEPS: tuple[SunStep, ...] = (
    SunStep(
        "place",
        "The dark glass is screwed into the eyepiece; the front stays open.",
        "filter_eyepiece",
        "Behind the open front all the heat meets that glass: it cracks while you look. "
        "Only a filter in front of the whole opening keeps the heat out.",
    ),
    SunStep(
        "place",
        "The cap's small opening is used, with a piece of foil held at the eyepiece.",
        "filter_eyepiece",
        "Even a small opening burns an eye; foil belongs in front, fitted and whole.",
    ),
    SunStep("place", "The filter sits in front of the tube and covers all of it.", "filter_front"),
    SunStep("place", "Nothing is filtered at the eyepiece; all of it is in front.", "filter_front"),
    SunStep(
        "finder",
        "The finder stays on, open: nobody is going to look through it.",
        "finder_open",
        "A finder is a telescope too: it blinds, and it burns hair and cloth. Off, or capped.",
    ),
    SunStep(
        "finder",
        "The finder has no filter, so only a quick glance is taken through it.",
        "finder_open",
        "A glance is enough to blind. The finder comes off, or is capped so that it stays shut.",
    ),
    SunStep("finder", "The finder is off the tube and lies in its box.", "finder_off"),
    SunStep("finder", "Both ends of the finder are capped and taped.", "finder_off"),
    SunStep(
        "doubt",
        "The foil has one bright pinhole; it is dabbed with a felt pen and used.",
        "lamp",
        "A doubtful filter is not looked through: it is replaced, as its maker says.",
    ),
    SunStep(
        "doubt",
        "The filter was fine last year, so it goes straight on.",
        "filter_front",
        "Before every session it is held against a bright lamp: foil ages, and boxes press.",
    ),
    SunStep("doubt", "Against a bright lamp the filter shows no point of light.", "lamp"),
    SunStep("doubt", "A scratch was found: today nobody looks at the Sun.", "lamp"),
    SunStep(
        "fit",
        "The filter sits a little loose; there is hardly any wind.",
        "loose_filter",
        "One gust or one elbow, and nothing is in front. It is fixed until a tug cannot lift it.",
    ),
    SunStep("fit", "The filter was tugged at, and taped on as well.", "filter_front"),
    SunStep(
        "aim",
        "To find the Sun, the eye looks along the tube.",
        "eye_along",
        "Whoever sights along a tube at the Sun looks into the Sun. Only the shadow is watched.",
    ),
    SunStep(
        "aim",
        "The filter comes off until the Sun is found, then goes on.",
        "no_filter",
        "The filter is on before the tube goes anywhere near the Sun, and stays on.",
    ),
    SunStep("aim", "The tube is turned until its shadow is smallest.", "shadow"),
    SunStep("aim", "Only the shadow on the ground is looked at while aiming.", "shadow"),
    SunStep(
        "leave",
        "You fetch a jacket; the tube waits, aimed, with its filter on.",
        "alone",
        "A passer-by takes the odd cap off to look. Nobody ever leaves it alone.",
    ),
    SunStep(
        "leave",
        "The queue is told to wait while you answer the telephone indoors.",
        "alone",
        "A queue does not wait. The tube is turned away and capped before you go.",
    ),
    SunStep("leave", "Before you go in, the tube is turned away and capped.", "turned_away"),
    SunStep("leave", "Somebody who knows stays beside it all the time.", "company"),
    SunStep(
        "end",
        "At the end the filter comes off first, then the tube is turned away.",
        "no_filter",
        "For that moment it is an open telescope at the Sun. First turn it away, then unfilter.",
    ),
    SunStep(
        "end",
        "The eyepiece is changed for a cap, and the filter stowed, the tube left as it stands.",
        "no_filter",
        "Sunlight through an open front burns whatever is behind it. First turn it away.",
    ),
    SunStep("end", "At the end the tube is turned away, then the filter comes off.", "turned_away"),
    SunStep("end", "Caps go on while the tube points at the ground.", "turned_away"),
    SunStep(
        "near",
        "A chimney a hand's width beside the Sun serves to align the finder.",
        "sun_beside",
        "One slip and the Sun is in it. Landmarks stay 30° and more away from the Sun.",
    ),
    SunStep("near", "The finder is aligned on a mast, the Sun behind you.", "sun_behind"),
    SunStep(
        "home_made",
        "Two pairs of sunglasses are taped over the front.",
        "loose_filter",
        "Nothing but a certified solar filter keeps out the light one does not see.",
    ),
    SunStep("home_made", "A certified filter, made for this aperture, is used.", "filter_front"),
    SunStep(
        "haze",
        "The Sun is red and dim in the haze: a short look without filter.",
        "no_filter",
        "Haze thins and the telescope gathers: what looks dim burns. Never without the filter.",
    ),
    SunStep(
        "haze", "The Sun is low and dull; the filter is in front all the same.", "filter_front"
    ),
    SunStep(
        "company",
        "The children may turn the tube themselves meanwhile.",
        "company",
        "A pushed tube or a pulled filter takes a second. Children stay at arm's length from you.",
    ),
    SunStep("company", "The children stand at arm's length and look when called.", "company"),
    SunStep(
        "sight",
        "The 1× sight stays open: it does not magnify.",
        "finder_open",
        "Whoever bends to the sight looks along the tube at the Sun. It comes off or is covered.",
    ),
    SunStep("sight", "The 1× sight was taken off beforehand.", "finder_off"),
)
