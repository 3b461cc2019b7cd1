"""What is wrong?  Short questions from what the eye sees to the cause and the cure, as a tree."""

from jade_perch.core.fields import Frozen
from jade_perch.core.practice.symptom_causes import CAUSES, PLACES, Cause, Picture, Place


class Answer(Frozen):
    """One answer to a question, and the question or cause it leads to."""

    words: str
    to: str


class Question(Frozen):
    """One short question with a picture of what is meant, and its answers."""

    key: str
    words: str
    picture: Picture
    answers: tuple[Answer, ...]


class Symptom(Frozen):
    """What somebody says, in their words; where its questions begin."""

    key: str
    words: str
    picture: Picture
    first: str


class SymptomTree(Frozen):
    """All of it, so that a page can ask on while nobody answers."""

    symptoms: tuple[Symptom, ...]
    questions: tuple[Question, ...]
    causes: tuple[Cause, ...]
    places: dict[Place, str] = PLACES


def _asks(key: str, words: str, picture: Picture, *answers: tuple[str, str]) -> Question:
    told = tuple(Answer(words=said, to=to) for said, to in answers)
    return Question(key=key, words=words, picture=picture, answers=told)


SYMPTOMS = (
    Symptom(key="nothing", words="I see nothing", picture="grey", first="light"),
    Symptom(key="black", words="It is all black", picture="black", first="caps"),
    Symptom(key="shadow", words="A grey disc with a shadow in it", picture="shadow", first="when"),
    Symptom(key="doughnut", words="A doughnut", picture="doughnut", first="ring"),
    Symptom(key="upside", words="It is upside down", picture="turned", first="what_for"),
    Symptom(key="shakes", words="It shakes", picture="shake", first="touch"),
    Symptom(key="drops", words="It drops", picture="drop", first="swapped"),
    Symptom(key="slides", words="It slides away", picture="drift", first="how_soon"),
    Symptom(key="blur", words="It is a blur however I turn", picture="blur", first="ends"),
    Symptom(key="dot", words="The dot is gone", picture="dot", first="switched"),
    Symptom(key="cross", words="Stars are lines or crosses", picture="cross", first="turns_with"),
    Symptom(key="fog", words="It fogged", picture="fog", first="which_glass"),
)
QUESTIONS = (
    _asks(
        "light", "Is there a bright round field at all?", "grey",
        ("No, all is black", "caps"), ("Yes, grey and empty", "in_finder"),
        ("Yes, but it comes and goes", "head_moves"),
    ),
    _asks(
        "caps", "Are all caps off: front, eyepiece, and the small one?", "cap",
        ("One was still on", "cap_on"), ("All are off", "eye_distance"),
    ),
    _asks(
        "eye_distance", "Does light come when the eye moves nearer or aside?", "head",
        ("Yes, for a moment", "head_moves"), ("No, still black", "which_power"),
    ),
    _asks(
        "which_power", "Which eyepiece is in?", "eyepiece",
        ("A short one, or a Barlow with it", "too_much_power"), ("The longest, alone", "far_focus"),
    ),
    _asks(
        "far_focus", "Turn the focus right through: does a large bright disc come?", "focuser",
        ("Yes, a disc that shrinks", "only_focus"), ("No, nothing at all", "diagonal_loose"),
    ),
    _asks(
        "in_finder", "Is the target on the finder's mark?", "finder",
        ("Yes, right on it", "finder_checked"), ("I cannot find it there either", "wide_first"),
        ("There is no finder", "no_finder"),
    ),
    _asks(
        "finder_checked", "Was the finder aligned with this tube, by day?", "day",
        ("No, or something was bumped since", "finder_off"), ("Yes", "what_target"),
    ),
    _asks(
        "what_target", "What is it you look for?", "grey",
        ("A Moon, planet or bright star", "blurred_out"), ("Something faint", "too_faint"),
    ),
    _asks(
        "blurred_out", "Turn the focus: does the grey gather to a point?", "focuser",
        ("Yes", "only_focus"), ("No", "small_field"),
    ),
    _asks(
        "when", "By day or in the dark?", "day",
        ("By day, or on a bright Moon", "day_shadow"), ("In the dark", "how_low"),
    ),
    _asks(
        "how_low", "Which eyepiece is in?", "eyepiece",
        ("My longest", "pupil_too_large"), ("A short one", "shadow_focus"),
    ),
    _asks(
        "shadow_focus", "Turn the focus: does the disc shrink?", "focuser",
        ("Yes", "only_focus"), ("No, it swims as I move", "head_moves"),
    ),
    _asks(
        "ring", "Turn the focus: does the ring shrink to a point?", "focuser",
        ("Yes, to a small point", "only_focus"), ("It shrinks, but lopsided", "collimation"),
        ("No, it stays a ring", "focus_range"),
    ),
    _asks(
        "what_for", "What do you want to look at?", "turned",
        ("The sky", "turned_is_right"), ("Things on the ground", "needs_prism"),
        ("A chart that does not match", "chart_side"),
    ),
    _asks(
        "touch", "When does it shake?", "shake",
        ("When I touch or focus", "after_touch"), ("All the time", "wind_or_air"),
    ),
    _asks(
        "after_touch", "How long until it is still?", "legs",
        ("Longer than three seconds", "legs_loose"), ("A second or two", "high_power_shake"),
    ),
    _asks(
        "wind_or_air", "Does the whole picture jump, or does its edge boil?", "air",
        ("The whole picture jumps", "ground_shakes"), ("The edge boils", "steady_air"),
    ),
    _asks(
        "swapped", "When does it drop?", "drop",
        ("When the clamp is opened", "unbalanced"), ("Slowly, as soon as I let go", "friction"),
        ("After a heavy eyepiece went in", "heavy_eyepiece"),
    ),
    _asks(
        "how_soon", "How does it go?", "drift",
        ("Evenly, always the same way", "has_drive"), ("It springs back when I let go", "backlash"),
    ),
    _asks(
        "has_drive", "Does the mount follow by itself, or by one knob?", "knob",
        ("No, I push it", "earth_turns"), ("Yes, and it still slides", "set_right"),
    ),
    _asks(
        "set_right", "How fast does it go?", "base",
        ("As fast as with no motor at all", "clamp_open"),
        ("Slowly, over minutes", "pole_or_level"),
    ),
    _asks(
        "ends", "Is it nearly sharp at one end of the focus?", "focuser",
        ("Yes, it only wants a little more", "focus_range"),
        ("No, sharpest in the middle", "power"),
        ("It does not change at all", "focus_lock"),
    ),
    _asks(
        "power", "Is it sharper in a longer eyepiece?", "eyepiece",
        ("Yes", "too_much_power"), ("No, just the same", "how_long_out"),
    ),
    _asks(
        "how_long_out", "How long has the tube stood outside?", "air",
        ("Under half an hour", "warm_tube"), ("Longer", "through_what"),
    ),
    _asks(
        "through_what", "What is between you and the target?", "air",
        ("A window, a roof or a chimney", "window"), ("Open sky", "dirty_or_eye"),
    ),
    _asks(
        "dirty_or_eye", "Is it sharp for somebody else?", "glasses",
        ("Yes, for others", "own_eyes"), ("For nobody", "dew_or_collimation"),
    ),
    _asks(
        "dew_or_collimation", "Hold a red light to the glass: is it dull?", "fog",
        ("Yes, a film", "dew"), ("No, it is clear", "collimation"),
    ),
    _asks(
        "switched", "Is the sight switched on and its dial up?", "dot",
        ("It was off", "switch_on"), ("It is on", "dot_where"),
    ),
    _asks(
        "dot_where", "Does the dot come when the head moves?", "head",
        ("Yes, from some places", "dot_head"), ("No, from nowhere", "dot_cells"),
    ),
    _asks(
        "dot_cells", "Was it left on the last time?", "cells",
        ("Perhaps", "flat_cell"), ("No, the cell is new", "dot_window"),
    ),
    _asks(
        "turns_with", "Does it turn when you turn your head?", "cross",
        ("Yes, with my head", "astigmatism"), ("No", "lines_or_cross"),
    ),
    _asks(
        "lines_or_cross", "Lines that swap through focus, or a cross of rays?", "mirror",
        ("Lines that swap", "pinched"), ("Four rays on bright stars", "spider"),
        ("A tail, always one way", "collimation"), ("Short trails", "shaken_star"),
    ),
    _asks(
        "which_glass", "Where does it sit?", "fog",
        ("On the eyepiece", "breath"), ("On the front glass or mirror", "dew"),
        ("Inside, where nobody reaches", "inside"),
    ),
)  # fmt: skip
TREE = SymptomTree(symptoms=SYMPTOMS, questions=QUESTIONS, causes=CAUSES)
