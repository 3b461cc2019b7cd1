"""The things an observer owns: one definition of each, used by every layer."""

from typing import Annotated, Literal, Self

from pydantic import model_validator

from jade_perch.core.constants import BARREL_FIELD_STOP_MM
from jade_perch.core.fields import Item, Name, Range, refused

Barrel = Literal["0.965", "1.25", "2"]
Design = Literal["refractor", "newtonian", "catadioptric"]
AmplifierKind = Literal["barlow", "telecentric"]

FASTEST_FOCAL_RATIO, SLOWEST_FOCAL_RATIO = 2.0, 40.0  # outside it one of the two numbers is a slip


class Telescope(Item):
    """A telescope as its tube says: aperture, focal length, design, widest barrel it takes.

    ``obstruction_percent`` is the secondary's diameter in percent of the aperture, 0 for lenses.
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
        if self.design == "refractor" and self.obstruction_percent > 0:
            raise refused(
                "obstruction_percent",
                self.obstruction_percent,
                "0 % for a refractor",
                "A lens has nothing in front of it: type 0, or choose another design.",
            )
        return self

    @property
    def focal_ratio(self) -> float:
        """Focal length over aperture, dimensionless."""
        return self.focal_length_mm / self.aperture_mm


class Eyepiece(Item):
    """An eyepiece; a field stop or eye relief that is not known is None, never a guess."""

    name: Name
    focal_length_mm: Annotated[
        float, Range(1.5, 100, "mm", "Type the millimetres on its barrel, not a power.")
    ]
    apparent_field_deg: Annotated[
        float, Range(15, 130, "°", "Use the maker's figure; a plain one shows 40 to 60.")
    ]
    field_stop_mm: (
        Annotated[float, Range(0.5, 46, "mm", "Leave it empty when you do not know it.")] | None
    ) = None
    barrel_in: Barrel = "1.25"
    eye_relief_mm: (
        Annotated[float, Range(0, 60, "mm", "Leave it empty when you do not know it.")] | None
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


class Amplifier(Item):
    """A Barlow or telecentric lens; ``focal_length_mm`` is the Barlow's own, without its minus."""

    name: Name
    factor: Annotated[float, Range(1.1, 6, "×", "Type the number before the × on it.")]
    kind: AmplifierKind = "barlow"
    focal_length_mm: (
        Annotated[float, Range(10, 500, "mm", "Leave it empty when you do not know it.")] | None
    ) = None
    barrel_in: Barrel = "1.25"


class Observer(Item):
    """A person at the eyepiece; the measured eye pupil wins over the one estimated by age."""

    name: Name
    age_years: Annotated[int, Range(4, 110, "years", "Type whole years.")] | None = None
    eye_pupil_mm: (
        Annotated[float, Range(2, 9, "mm", "Measure it in the dark, or leave it empty.")] | None
    ) = None
    wears_glasses: bool = False
