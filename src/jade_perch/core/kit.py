"""The things an observer owns: one definition of each, used by every layer."""

from typing import Annotated, Literal, Self

from pydantic import model_validator

from jade_perch.core.constants import BARREL_FIELD_STOP_MM
from jade_perch.core.designs import DESIGN_TRAITS, DesignTraits
from jade_perch.core.fields import Day, Id, Item, Label, Name, OneOf, Range, refused
from jade_perch.core.finders import FINDER_TRAITS, FinderTraits
from jade_perch.core.mounts import TRAITS, MountTraits

Barrel = Literal["0.965", "1.25", "2"]
Design = Annotated[str, OneOf(tuple(DESIGN_TRAITS))]
AmplifierKind = Literal["barlow", "telecentric"]
DiagonalKind = Literal["mirror", "correct_image"]
FinderKind = Annotated[str, OneOf(tuple(FINDER_TRAITS))]
RingEnd = Literal["rear", "front"]
FinderSide = Literal["up", "left", "right"]
MountKind = Annotated[str, OneOf(tuple(TRAITS))]
Levelling = Literal["screws", "clamps", "none"]
FilterKind = Literal["moon", "colour", "nebula", "solar_front"]
Glasses = Literal["none", "sight", "astigmatism"]
Practice = Literal["first", "some", "much"]
UpkeepTask = Literal["battery", "cleaning", "collimation", "inspection"]
UpkeepOf = Literal[
    "telescope", "eyepiece", "amplifier", "diagonal", "finder", "mount", "light_filter"
]

VIAL_CURE = "Round vials are often 20 to 60; see its maker."
UNKNOWN = "Leave it empty when you do not know it."
FASTEST_FOCAL_RATIO, SLOWEST_FOCAL_RATIO = 2.0, 40.0  # outside it one of the two numbers is a slip


class Telescope(Item):
    """A telescope as its tube says: aperture, focal length, design, widest barrel it takes.

    ``obstruction_percent`` is the secondary's diameter in percent of the aperture, 0 for lenses.
    ``eyepiece_angle_deg`` is where the eyepiece points, clockwise from up as seen from behind
    (None: up for a diagonal, to the right for a Newtonian).  ``transmission_percent`` None means
    estimated by design.  ``mask_opening_mm`` is the small hole in the front cap.  ``is_new``
    marks a kit its owner is still learning.
    """

    name: Name
    aperture_mm: Annotated[
        float, Range(20, 2000, "mm", "Type the clear diameter of the lens or mirror.")
    ]
    focal_length_mm: Annotated[
        float, Range(50, 40000, "mm", "It is printed by the focuser, often as F=….")
    ]
    design: Design
    obstruction_percent: Annotated[
        float, Range(0, 60, "%", "Type the secondary's diameter as percent of the aperture.")
    ] = 0.0
    focuser_barrel_in: Barrel = "1.25"
    eyepiece_angle_deg: (
        Annotated[float, Range(-180, 180, "°", "0 is up, 90 to the right, seen from behind.")]
        | None
    ) = None
    tube_length_mm: Annotated[float, Range(50, 10000, "mm", UNKNOWN)] | None = None
    pivot_from_front_mm: Annotated[float, Range(0, 10000, "mm", UNKNOWN)] | None = None
    mass_kg: Annotated[float, Range(0.1, 500, "kg", UNKNOWN)] | None = None
    transmission_percent: Annotated[float, Range(20, 100, "%", UNKNOWN)] | None = None
    mask_opening_mm: Annotated[float, Range(5, 2000, "mm", UNKNOWN)] | None = None
    printed_power: (
        Annotated[float, Range(1, 5000, "×", "Type the largest power the box prints.")] | None
    ) = None
    is_new: bool = False
    mount_id: Id | None = None
    diagonal_id: Id | None = None

    @model_validator(mode="after")
    def _numbers_agree(self) -> Self:
        ratio = self.focal_length_mm / self.aperture_mm
        if not FASTEST_FOCAL_RATIO <= ratio <= SLOWEST_FOCAL_RATIO:
            low = FASTEST_FOCAL_RATIO * self.aperture_mm
            high = SLOWEST_FOCAL_RATIO * self.aperture_mm
            raise refused(
                "focal_length_mm",
                self.focal_length_mm,
                f"{low:g} to {high:g} mm for {self.aperture_mm:g} mm aperture",
                "Check that aperture and focal length are not swapped.",
            )
        if self.design_traits.is_lens and self.obstruction_percent > 0:
            raise refused(
                "obstruction_percent",
                self.obstruction_percent,
                f"0 % for a {self.design}",
                "A lens has nothing in front of it: type 0, or choose another design.",
            )
        return self

    @model_validator(mode="after")
    def _parts_fit_the_tube(self) -> Self:
        mask_mm = self.mask_opening_mm
        if mask_mm is not None and mask_mm >= self.aperture_mm:
            raise refused(
                "mask_opening_mm",
                mask_mm,
                f"less than the aperture of {self.aperture_mm:g} mm",
                "Measure the small hole in the front cap, or leave it empty.",
            )
        pivot_mm, tube_mm = self.pivot_from_front_mm, self.tube_length_mm
        if pivot_mm is not None and tube_mm is not None and pivot_mm > tube_mm:
            raise refused(
                "pivot_from_front_mm",
                pivot_mm,
                f"0 to {tube_mm:g} mm, the length of the tube",
                "Measure from the front end to the point the tube turns about.",
            )
        return self

    @property
    def design_traits(self) -> DesignTraits:
        """What its design is.  Source: rules.md#stand."""
        return DESIGN_TRAITS[self.design]

    @property
    def focal_ratio(self) -> float:
        """Focal length over aperture, dimensionless.  Source: rules.md#power."""
        return self.focal_length_mm / self.aperture_mm


class Eyepiece(Item):
    """An eyepiece; a field, field stop or eye relief that is not known is None, never a guess.

    A zoom has its long end in ``focal_length_mm`` and ``apparent_field_deg`` and its short end
    in the two ``zoom_to`` fields.
    """

    name: Name
    focal_length_mm: Annotated[
        float, Range(1.5, 100, "mm", "Type the millimetres on its barrel, not a power.")
    ]
    apparent_field_deg: (
        Annotated[float, Range(15, 130, "°", "Use the maker's figure; a plain one shows 40 to 60.")]
        | None
    ) = None
    field_stop_mm: Annotated[float, Range(0.5, 46, "mm", UNKNOWN)] | None = None
    barrel_in: Barrel = "1.25"
    eye_relief_mm: Annotated[float, Range(0, 60, "mm", UNKNOWN)] | None = None
    zoom_to_focal_length_mm: (
        Annotated[float, Range(1.5, 100, "mm", "Leave it empty unless it is a zoom.")] | None
    ) = None
    zoom_to_apparent_field_deg: (
        Annotated[float, Range(15, 130, "°", "Leave it empty unless it is a zoom.")] | None
    ) = None

    @model_validator(mode="after")
    def _stop_fits_barrel(self) -> Self:
        widest_mm = BARREL_FIELD_STOP_MM[self.barrel_in]
        if self.field_stop_mm is not None and self.field_stop_mm > widest_mm:
            raise refused(
                "field_stop_mm",
                self.field_stop_mm,
                f"up to about {widest_mm:g} mm in a {self.barrel_in} in barrel",
                "Check the barrel, or leave the field stop empty.",
            )
        return self

    @model_validator(mode="after")
    def _zoom_goes_shorter(self) -> Self:
        short_mm, field_deg = self.zoom_to_focal_length_mm, self.zoom_to_apparent_field_deg
        if (short_mm is None) != (field_deg is None):
            end = "focal_length_mm" if short_mm is None else "apparent_field_deg"
            cure = "Fill in both, or neither for an eyepiece that is no zoom."
            raise refused(f"zoom_to_{end}", None, "a value when it is a zoom", cure)
        if short_mm is not None and short_mm >= self.focal_length_mm:
            raise refused(
                "zoom_to_focal_length_mm",
                short_mm,
                f"less than {self.focal_length_mm:g} mm, the long end",
                "Type the long end first, the short end here.",
            )
        return self


class Amplifier(Item):
    """A Barlow or telecentric lens; ``focal_length_mm`` is the Barlow's own, without its minus."""

    name: Name
    factor: Annotated[float, Range(1.1, 6, "×", "Type the number before the × on it.")]
    kind: AmplifierKind = "barlow"
    focal_length_mm: (
        Annotated[float, Range(10, 500, "mm", "Leave it empty when you do not know it.")] | None
    ) = None
    barrel_in: Barrel = "1.25"


class Diagonal(Item):
    """A star diagonal; ``light_path_mm`` is the glass path from its front to the eyepiece."""

    name: Name
    kind: DiagonalKind = "mirror"
    light_path_mm: Annotated[float, Range(20, 250, "mm", "About 70 for 1.25 in, 110 for 2 in.")] = (
        70.0
    )
    barrel_in: Barrel = "1.25"


class Finder(Item):
    """A finder or sight and where it sits; whatever nobody said is None and taken as usual.

    ``offset_mm`` is the distance between its axis and the main one; ``clock_hour`` its place
    around the tube as a clock face seen from behind.  ``eyepiece_side`` is where one looks into a
    right-angle one from.  ``ring_end`` says which end of it the screws hold, ``first_screw_hour``
    where one of them sits, ``lever_mm`` how far they are from where it pivots,
    ``thread_pitch_mm`` what one turn moves.
    """

    name: Name
    kind: FinderKind = "straight"
    magnification: Annotated[float, Range(1, 30, "×", "A sight without power is 1.")] | None = None
    field_deg: Annotated[float, Range(0.5, 60, "°", UNKNOWN)] | None = None
    offset_mm: Annotated[float, Range(10, 600, "mm", "Measure between the two axes.")] | None = None
    clock_hour: (
        Annotated[int, Range(1, 12, "o'clock", "12 is on top, seen from behind.")] | None
    ) = None
    screws: Annotated[int, Range(2, 6, "screws", "Count the adjusting screws.")] | None = None
    eyepiece_side: FinderSide = "up"
    ring_end: RingEnd | None = None
    first_screw_hour: Annotated[int, Range(1, 12, "o'clock", "Seen from behind.")] | None = None
    lever_mm: (
        Annotated[float, Range(20, 400, "mm", "From the screws to the other ring.")] | None
    ) = None
    thread_pitch_mm: Annotated[float, Range(0.2, 2, "mm a turn", "Often 0.5 to 0.8.")] | None = None
    telescope_id: Id | None = None

    @property
    def traits(self) -> FinderTraits:
        """What its kind is.  Source: rules.md#finder."""
        return FINDER_TRAITS[self.kind]

    @property
    def power(self) -> float:
        """Its power: a sight has none, others as said or as usual.  Source: rules.md#finder."""
        return 1.0 if self.traits.is_sight else self.magnification or self.traits.power

    @property
    def screw_count(self) -> int:
        """How many screws it has, as counted or as usual.  Source: rules.md#finder."""
        return self.screws or self.traits.screws

    @property
    def axis_offset_mm(self) -> float:
        """How far its axis is from the main one, as measured or as usual.

        Source: rules.md#finder.
        """
        return self.offset_mm or self.traits.offset_mm

    @property
    def hour(self) -> int:
        """Where it sits on the tube, as said or as usual.  Source: rules.md#finder."""
        return self.clock_hour or self.traits.hour


class Mount(Item):
    """A mount and its feet; heights are those of the pivot over the ground.

    ``vial_sensitivity_arcmin`` is the tilt that moves the bubble of its own level by a division.
    """

    name: Name
    kind: MountKind = "altaz"
    feet: Annotated[int, Range(3, 4, "feet", "Count the feet.")] = 3
    foot_radius_mm: Annotated[float, Range(50, 2000, "mm", UNKNOWN)] | None = None
    levelling: Levelling = "clamps"
    screw_pitch_mm: Annotated[float, Range(0.2, 10, "mm", "Height gained by one turn.")] | None = (
        None
    )
    lowest_mm: Annotated[float, Range(50, 3000, "mm", UNKNOWN)] | None = None
    highest_mm: Annotated[float, Range(50, 3000, "mm", UNKNOWN)] | None = None
    vial_sensitivity_arcmin: (
        Annotated[float, Range(0.1, 240, "arcmin a division", VIAL_CURE)] | None
    ) = None

    @model_validator(mode="after")
    def _height_goes_up(self) -> Self:
        low, high = self.lowest_mm, self.highest_mm
        if low is not None and high is not None and high < low:
            raise refused(
                "highest_mm", high, f"at least {low:g} mm, the lowest", "Swap the two heights."
            )
        return self

    @property
    def traits(self) -> MountTraits:
        """What its kind is, wants and asks for.  Source: rules.md#steps."""
        return TRAITS[self.kind]


class LightFilter(Item):
    """A filter; a solar one goes in front of the whole aperture and nowhere else."""

    name: Name
    kind: FilterKind = "moon"
    barrel_in: Barrel | None = None
    note: Label = ""


class Observer(Item):
    """A person at the eyepiece; the measured eye pupil wins over the one estimated by age.

    ``sight_diopters`` is negative for short sight; ``glasses`` says what they are for.
    ``practice`` says how long somebody has looked at faint things; None is not said.
    ``field_factor`` is how many times more light this eye needs than a perfect one, where the
    notes have shown it; it wins over what the practice says.
    """

    name: Name
    age_years: Annotated[int, Range(4, 110, "years", "Type whole years.")] | None = None
    eye_pupil_mm: (
        Annotated[float, Range(2, 9, "mm", "Measure it in the dark, or leave it empty.")] | None
    ) = None
    glasses: Glasses = "none"
    sight_diopters: (
        Annotated[float, Range(-20, 20, "dpt", "It stands in the glasses' passport.")] | None
    ) = None
    eye_height_mm: (
        Annotated[float, Range(500, 2300, "mm", "From the ground to the eye.")] | None
    ) = None
    practice: Practice | None = None
    field_factor: (
        Annotated[float, Range(1, 6, "times", "1 is a perfect eye; leave it empty if unknown.")]
        | None
    ) = None


class Upkeep(Item):
    """Something to be done to an item now and then; never done is due.

    It is due after so many days, or after so many evenings of use, whichever comes first.
    """

    item_kind: UpkeepOf
    item_id: Id
    task: UpkeepTask
    note: Label = ""
    last_done: Day | None = None
    every_days: Annotated[int, Range(1, 3650, "days", "Type whole days.")] = 180
    every_uses: (
        Annotated[int, Range(1, 500, "evenings", "Leave it empty where only time counts.")] | None
    ) = None
