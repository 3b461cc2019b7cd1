"""The causes the symptom finder ends at, each with its cure and where one learns or mends it."""

from typing import Literal

from jade_perch.core.fields import Frozen
from jade_perch.core.practice.drill import DrillName

Picture = Literal[
    "black", "grey", "shadow", "doughnut", "turned", "shake", "drop", "drift", "blur", "dot",
    "cross", "fog", "cap", "head", "finder", "eyepiece", "barlow", "focuser", "knob", "clamp",
    "legs", "glasses", "air", "mirror", "base", "cells", "day",
]  # fmt: skip
Place = Literal[
    "assemble", "stand", "level", "balance", "finder", "north", "focus", "cool", "kit", "powers",
    "plan",
]  # fmt: skip


PLACES: dict[Place, str] = {
    "assemble": "At the bench: put together",
    "stand": "At the bench: stand it up",
    "level": "At the bench: level",
    "balance": "At the bench: balance",
    "finder": "At the bench: align the finder",
    "north": "At the bench: north",
    "focus": "At the bench: focus",
    "cool": "At the bench: cool-down and dew",
    "kit": "In the kit",
    "powers": "On the ladder of powers",
    "plan": "In tonight's plan",
}


class Cause(Frozen):
    """A cause and its cure; ``place`` is the step or station that mends it, ``drill`` trains it."""

    key: str
    cause: str
    cure: str
    picture: Picture
    place: Place
    drill: DrillName | None = None


def _cause(
    key: str, picture: Picture, cause: str, cure: str, place: Place, drill: DrillName | None = None
) -> Cause:
    return Cause(key=key, cause=cause, cure=cure, picture=picture, place=place, drill=drill)


CAUSES = (
    _cause("cap_on", "cap", "A cap was still on.",
           "Take all of them off, count them, and put them in one pocket.", "assemble"),
    _cause("head_moves", "head", "The head moves off the eye lens.",
           "Lean on something, keep the eye a finger's width behind it, and wait.", "focus"),
    _cause("too_much_power", "eyepiece", "Too much power at once.",
           "Begin with the longest eyepiece, no Barlow; climb once it stands in the middle.",
           "powers", "glass"),
    _cause("only_focus", "focuser", "It is out of focus, nothing more.",
           "Turn until it is smallest: bigger and blurrier is the wrong way.", "focus", "focus"),
    _cause("diagonal_loose", "barlow", "Something is missing or loose in the light's way.",
           "Diagonal in, eyepiece down to its stop, the lower barrel not unscrewed.", "assemble"),
    _cause("wide_first", "finder", "Nobody is near the target yet.",
           "Sight along the tube, then sweep a spiral by fields of the finder.", "finder",
           "finder"),
    _cause("no_finder", "finder", "Without a finder one sights along the tube.",
           "Longest eyepiece in; sight along the tube, then sweep a spiral by its fields.", "kit",
           "finder"),
    _cause("finder_off", "finder", "Finder and tube point at two places.",
           "Align them on something far away: main tube first, then the finder's screws.",
           "finder", "finder"),
    _cause("too_faint", "grey", "It does not show from here tonight.",
           "Take what the plan calls easy or clear; look beside it, eyes long in the dark.",
           "plan"),
    _cause("small_field", "eyepiece", "It stands just outside the field.",
           "Change to the longest eyepiece and sweep a small spiral.", "finder", "finder"),
    _cause("day_shadow", "shadow", "The secondary's shadow: small pupils see it by day.",
           "Take a shorter eyepiece; in the dark it goes by itself.", "powers", "glass"),
    _cause("pupil_too_large", "shadow", "The beam is wider than the eye's pupil.",
           "A shorter eyepiece: the exit pupil then fits the eye.", "powers", "glass"),
    _cause("collimation", "mirror", "The mirrors do not look at each other.",
           "Check the collimation by its own instructions, or let a club show it.", "kit"),
    _cause("focus_range", "barlow", "The focuser ends before it is sharp.",
           "Pull the eyepiece out a little; put the Barlow elsewhere; glasses on or off.",
           "focus"),
    _cause("turned_is_right", "turned", "That is how telescopes show the sky.",
           "Nothing is wrong. Let a star drift: it goes west, and so you know the sides.",
           "powers", "which_way"),
    _cause("needs_prism", "turned", "A mirror or a straight view turns the land.",
           "A correct-image prism puts it upright; for the sky leave it out.", "kit"),
    _cause("chart_side", "turned", "The chart is turned or mirrored another way.",
           "Use the side of the card that matches; turn it until two stars agree.",
           "powers", "which_way"),
    _cause("legs_loose", "legs", "Something is loose, or the legs stand long.",
           "Lock spreader and tray, shorten the legs, tighten what holds the tube.", "stand"),
    _cause("high_power_shake", "shake", "At high power every touch shows.",
           "Let go and count to three before looking; focus with two fingertips.", "stand"),
    _cause("ground_shakes", "legs", "Wind, or a floor that moves.",
           "Off the deck onto the ground, into the lee of a wall, legs short.", "stand"),
    _cause("steady_air", "air", "The air is boiling.",
           "Take less power, look when it stands higher, and wait for calm moments.", "powers"),
    _cause("unbalanced", "drop", "The tube is not balanced.",
           "One hand on it: open the clamp, slide it until it stays by itself.", "balance"),
    _cause("friction", "clamp", "There is too little friction.",
           "Tighten the clamp or the friction a little: it stays, and moves at a push.",
           "balance"),
    _cause("heavy_eyepiece", "eyepiece", "The eyepiece is heavier than before.",
           "Balance with the heaviest one in, and add a little friction.", "balance"),
    _cause("backlash", "knob", "A knob has play, or something pulls.",
           "End every movement in the same direction; lay cables so that they do not pull.",
           "balance", "keep"),
    _cause("earth_turns", "drift", "The Earth turns: everything goes west.",
           "Push the tube after it, a little at a time; longer eyepieces give more time.",
           "powers", "keep"),
    _cause("clamp_open", "clamp", "An axis is not engaged.",
           "Close the clamp of the axis that follows, and see that the motor turns.", "north"),
    _cause("pole_or_level", "base", "Axis or base do not point as the mount believes.",
           "Set north and the pole again; the budget says how long each eyepiece holds.",
           "north", "level"),
    _cause("focus_lock", "focuser", "The focuser's lock is closed.",
           "Open the small screw beneath it; turn, then close it again.", "focus", "focus"),
    _cause("warm_tube", "air", "The tube is still warm.",
           "Give it half an hour outside, caps off, pointing at nothing bright.", "cool"),
    _cause("window", "air", "Glass and warm air spoil every picture.",
           "Go outside; never through a window, and not over a roof.", "stand"),
    _cause("own_eyes", "glasses", "Your eyes want another focus.",
           "Everybody focuses anew. With astigmatism keep the glasses on at low power.",
           "focus", "focus"),
    _cause("dew", "fog", "Dew has settled on the glass.",
           "Do not wipe. Warm it gently, shield it, and cap it only when it is dry.", "cool"),
    _cause("switch_on", "dot", "The sight was switched off.",
           "Switch it on, turn its dial up, and off again afterwards.", "finder"),
    _cause("dot_head", "head", "The eye is beside the sight's axis.",
           "A hand's width behind it, both eyes open, move until the dot appears.", "finder"),
    _cause("flat_cell", "cells", "The cell is flat.",
           "Change it and note it; keep button cells away from children.", "kit"),
    _cause("dot_window", "dot", "Its window is dewed, capped, or its contact dirty.",
           "Look at the window from the front, clean the contact, turn the cell about.", "kit"),
    _cause("astigmatism", "glasses", "It is your eye, not the telescope.",
           "Glasses on, or more power: a narrow beam hides it. Ask an optician.", "powers"),
    _cause("pinched", "mirror", "A glass is pinched or tilted, or still warm.",
           "Let it cool; if it stays, have its cell loosened by somebody who knows.", "cool"),
    _cause("spider", "cross", "The vanes that hold the secondary make them.",
           "Nothing is wrong: bright stars have rays in such a telescope.", "kit"),
    _cause("shaken_star", "shake", "The tube still swings, or a motor jumps.",
           "Let go and wait until it is still.", "stand"),
    _cause("breath", "fog", "Breath, or a warm eye, on cold glass.",
           "Breathe aside; warm the eyepiece in a pocket before it goes in.", "cool"),
    _cause("inside", "fog", "It has dewed inside.",
           "Bring it in capped, let it warm slowly, then dry it open.", "cool"),
)  # fmt: skip
