"""Put together: one hand movement after the other, with the reason and the usual slip."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from jade_perch.core.bench.advice import Advice
from jade_perch.core.fields import FEW_TICKS, Frozen, OneOf
from jade_perch.core.kit import Diagonal, Finder, Mount, Telescope
from jade_perch.core.mounts import TRAITS

BY_HAND = "By hand: no tool is needed, and nothing is forced."


@dataclass(frozen=True, slots=True)
class PartTraits:
    """One hand movement: what to do in one sentence, why, and what usually goes wrong."""

    title: str
    words: str
    why: str
    slip: str


PARTS: dict[str, PartTraits] = {
    "board": PartTraits(
        "Base board",
        "Set the base board on firm ground, its feet down.",
        "It has to turn freely and not rock.",
        "One foot over a hole or on a cable: it rocks all night.",
    ),
    "table": PartTraits(
        "Table",
        "Choose a low, heavy table and push at it: it must not shake.",
        "The whole view shakes with the table.",
        "A folding table: every touch sends the image dancing.",
    ),
    "legs": PartTraits(
        "Legs",
        "Pull the legs out evenly, lock each, then spread them.",
        "Legs of one length keep it level and upright.",
        "Spread before they are locked: a leg slides in under the load.",
    ),
    "tray": PartTraits(
        "Tray",
        "Put the tray in and turn it until it locks on every arm.",
        "The tray holds the legs apart.",
        "Laid in but not turned: the legs fold when somebody bumps them.",
    ),
    "head": PartTraits(
        "Head",
        "Set the head on the legs and tighten the bolt from below.",
        "A loose head shakes and turns with the tube.",
        "Tightened askew: it feels tight and still wobbles.",
    ),
    "cradle": PartTraits(
        "Cradle",
        "Lower the tube into its cradle, both bearings at once.",
        "Friction holds it wherever it is left.",
        "Only one side in: the tube drops when it is let go.",
    ),
    "ball": PartTraits(
        "Ball",
        "Seat the ball in its ring and set the friction so it stays.",
        "It has to stay where it is left and move at a push.",
        "Friction too loose: the tube nods over and the mirror hits the table.",
    ),
    "plate": PartTraits(
        "Plate",
        "Screw the plate under the tube and click it into the head.",
        "The tube hangs on this one screw.",
        "Plate clicked in but its lever not closed.",
    ),
    "handle": PartTraits(
        "Handle",
        "Turn the pan handle toward you and tighten it.",
        "It is what moves the telescope smoothly.",
        "Handle pointing ahead: one reaches across the view.",
    ),
    "weight": PartTraits(
        "Counterweight",
        "Screw in the bar, slide the weight on, put its safety end back.",
        "The weight goes on before the tube and comes off after it.",
        "Tube first: the head swings round under it.",
    ),
    "cables": PartTraits(
        "Slow-motion cables",
        "Push each cable on, its screw over the flat of the shaft.",
        "The screw grips only on the flat.",
        "Screw on the round side: it slips at the first turn.",
    ),
    "bolt": PartTraits(
        "Clamp bolt",
        "Fit the clamp bolt from the side that leaves the tube free.",
        "The tube has to reach the zenith.",
        "Bolt on the other side: the tube stops short of overhead.",
    ),
    "side_bolt": PartTraits(
        "Side bolts",
        "Hang the tube in the yoke, a bolt from each side.",
        "Fitted from the outside they leave the tube free to reach the zenith.",
        "A bolt from within: the tube stops short of overhead.",
    ),
    "rod": PartTraits(
        "Slow-motion rod",
        "Slide the rod through its nut and tighten it halfway.",
        "It raises and lowers the tube finely.",
        "Clamped fully: the tube is forced against it and bends the rod.",
    ),
    "rail": PartTraits(
        "Tube",
        "Put the tube at the middle of its rail, one hand on it.",
        "From the middle it balances in either direction.",
        "Let go before the clamp is closed: the tube slides out.",
    ),
    "finder": PartTraits(
        "Finder",
        "Slide the finder in, its big lens toward the sky.",
        "One looks into the small end.",
        "Backwards: everything looks tiny.",
    ),
    "sight": PartTraits(
        "Sight",
        "Slide the sight in, its window toward the sky.",
        "One looks through it from the eyepiece end.",
        "Backwards: no dot is to be seen.",
    ),
    "diagonal": PartTraits(
        "Diagonal",
        "Push the diagonal in and close its set screw.",
        "Loose, it turns and drops the eyepiece.",
        "Set screw forgotten: it falls when the tube points up.",
    ),
    "eyepiece": PartTraits(
        "Longest eyepiece",
        "Put in the eyepiece with the biggest number; close its set screw.",
        "It shows the widest field, and everything is found in it.",
        "Its lower barrel unscrewed instead of the set screw loosened.",
    ),
    "cell": PartTraits(
        "Battery of the sight",
        "Take out the cell's paper strip; its plus goes up.",
        "Without it the dot stays dark. Keep cells from small children.",
        "The wrong way round, or left on since last time.",
    ),
    "supply": PartTraits(
        "Batteries of the mount",
        "Put the batteries in as drawn, the switch still off.",
        "Power comes last, once it stands level and at its mark.",
        "One of them the wrong way round: nothing moves.",
    ),
    "shield": PartTraits(
        "Dew shield",
        "Slide the dew shield out as far as it goes.",
        "It keeps dew and stray light off the lens.",
        "Left in: the lens fogs within the hour.",
    ),
    "side_caps": PartTraits(
        "Caps",
        "Last of all take both caps off, tube and focuser; count them.",
        "The same number goes home. By day the Sun comes first.",
        "Only the small hole in the big cap opened: a dim view.",
    ),
    "caps": PartTraits(
        "Caps",
        "Last of all take the caps off, and count them.",
        "The same number goes home. By day the Sun comes first.",
        "Only the small cap taken off: a dim, cut view.",
    ),
}
# What is put on whatever the mount.
ON_ANY_MOUNT = frozenset(PARTS) - {part for kind in TRAITS.values() for part in kind.parts}
Part = Annotated[str, OneOf(tuple(PARTS))]


class AssembleInput(Frozen):
    """Which hand movements are done now, or taken back; ``stands`` says it was together already."""

    done: Annotated[list[Part], FEW_TICKS] = Field(default_factory=list)
    undone: Annotated[list[Part], FEW_TICKS] = Field(default_factory=list)
    stands: bool = False


class PartState(Frozen):
    """One hand movement of this telescope, and whether it is done."""

    part: Part
    title: str
    words: str
    why: str
    slip: str
    tools: str
    is_done: bool


class AssembleAdvice(Advice):
    """Every hand movement in its order, and which is next."""

    parts: list[PartState]
    next_part: str | None


def parts_of(
    telescope: Telescope, mount: Mount, diagonal: Diagonal | None, finders: Sequence[Finder]
) -> list[str]:
    """Return the hand movements that put a telescope together, in the order of the hands.

    Source: rules.md#assemble.
    """
    names = list(mount.traits.parts)
    if mount.traits.tube_slides:
        names.append("rail")
    names += ["sight" if finders[0].traits.is_sight else "finder"] if finders else []
    names += ["diagonal"] if diagonal is not None else []
    names.append("eyepiece")
    names += ["cell"] if any(one.traits.has_battery for one in finders) else []
    names += ["shield"] if telescope.design_traits.is_lens else []
    return [*names, "side_caps" if telescope.design_traits.eyepiece_at_side else "caps"]


def advise_assembly(given: AssembleInput, parts: Sequence[str], ticked: set[str]) -> AssembleAdvice:
    """Return the next hand movement; ``ticked`` are those done before.

    Source: rules.md#assemble.
    """
    done = set(parts) if given.stands else (ticked | set(given.done)) - set(given.undone)
    states = [
        PartState(
            part=name,
            title=PARTS[name].title,
            words=PARTS[name].words,
            why=PARTS[name].why,
            slip=PARTS[name].slip,
            tools=BY_HAND,
            is_done=name in done,
        )
        for name in parts
    ]
    waiting = next((one for one in states if not one.is_done), None)
    return AssembleAdvice(
        instruction="Together: nothing forced, nothing missing."
        if waiting is None
        else waiting.words,
        detail=BY_HAND if waiting is None else waiting.why,
        is_done=waiting is None,
        sums=[],
        note="It stood together already." if given.stands else f"{len(done)} hand movements.",
        parts=states,
        next_part=None if waiting is None else waiting.part,
    )
