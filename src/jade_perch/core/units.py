"""Lengths and temperatures in the units people chose, in words from one place."""

from math import floor
from typing import Literal

from jade_perch.core.fields import Frozen

LengthUnit = Literal["metric", "inch"]
TemperatureUnit = Literal["celsius", "fahrenheit"]
MM_PER_INCH = 25.4  # definition of 1959
INCHES_PER_FOOT = 12
M_PER_FOOT = 0.3048  # definition of 1959
M_S_PER_MPH = 0.44704  # definition of the mile, 1959
SMALL_MM = 10.0  # below it a tenth of a millimetre counts


class Units(Frozen):
    """How lengths and temperatures are said; what optics is labelled with stays in mm."""

    length: LengthUnit = "metric"
    temperature: TemperatureUnit = "celsius"

    def small(self, length_mm: float) -> str:
        """Return a length that hands move something by: mm, or inches to a twentieth or better.

        Source: definition of the inch.
        """
        if self.length == "metric":
            return f"{length_mm:.1f} mm" if abs(length_mm) < SMALL_MM else f"{length_mm:.0f} mm"
        inches = length_mm / MM_PER_INCH
        return f"{inches:.2f} in" if abs(inches) < 1 else f"{inches:.1f} in"

    def height(self, length_mm: float) -> str:
        """Return a height over the ground: whole cm, or feet and inches.

        Source: definition of the inch.
        """
        return (
            f"{self.height_number(length_mm)} cm"
            if self.length == "metric"
            else self.feet(length_mm)
        )

    def height_number(self, length_mm: float) -> str:
        """Return a height without its unit, where the unit follows later; feet carry their own.

        Source: definition of the inch.
        """
        return f"{length_mm / 10:.0f}" if self.length == "metric" else self.feet(length_mm)

    def feet(self, length_mm: float) -> str:
        """Return a length as feet and inches.  Source: definition of the inch."""
        feet, inches = divmod(round(length_mm / MM_PER_INCH), INCHES_PER_FOOT)
        return f"{feet} ft {inches} in" if feet else f"{inches} in"

    def distance(self, length_m: float) -> str:
        """Return a distance along the ground: whole metres or feet.

        Source: definition of the foot.
        """
        return f"{length_m:.0f} m" if self.length == "metric" else f"{length_m / M_PER_FOOT:.0f} ft"

    def wind(self, speed_m_s: float) -> str:
        """Return a speed of the wind: m/s, or miles an hour.  Source: definition of the mile."""
        return self._wind(round(self._in_wind_unit(speed_m_s)))

    def wind_limit(self, speed_m_s: float) -> str:
        """Return a speed that must not be passed, never told larger than it is.

        Source: definition of the mile.
        """
        return self._wind(floor(self._in_wind_unit(speed_m_s)))

    def _in_wind_unit(self, speed_m_s: float) -> float:
        return speed_m_s if self.length == "metric" else speed_m_s / M_S_PER_MPH

    def _wind(self, speed: int) -> str:
        return f"{speed} m/s" if self.length == "metric" else f"{speed} mph"

    def degrees(self, temperature_c: float, decimals: int = 0) -> str:
        """Return a temperature.  Source: definition of both scales, F = 9/5·C + 32."""
        if self.temperature == "celsius":
            return f"{temperature_c:.{decimals}f} °C"
        return f"{temperature_c * 9 / 5 + 32:.{decimals}f} °F"

    def difference(self, difference_c: float, decimals: int = 1) -> str:
        """Return a difference of temperatures.  Source: 9 °F are 5 °C wide."""
        if self.temperature == "celsius":
            return f"{difference_c:.{decimals}f} °C"
        return f"{difference_c * 9 / 5:.{decimals}f} °F"


METRIC = Units()
