"""Simulated bases and finders, and hands that follow the words they are told.

Nothing here knows how an answer came about: only its one sentence is read.
"""

import math
import re

import numpy as np

from jade_perch.core.bench.advice import clock_direction

PARTS = {"⅛": 1 / 8, "¼": 1 / 4, "⅜": 3 / 8, "½": 1 / 2, "⅝": 5 / 8, "¾": 3 / 4, "⅞": 7 / 8}
NUMBER = r"\d*[⅛¼⅜½⅝¾⅞]|\d+(?:\.\d+)?"
EYE_NOISE = 0.03  # of a view's radius, one standard deviation of pointing at what is seen


def number(words):
    whole, part = re.fullmatch(r"(\d*(?:\.\d+)?)([⅛¼⅜½⅝¾⅞]?)", words).groups()
    return float(whole or 0) + PARTS.get(part, 0.0)


def rotated(angle_deg):
    c, s = math.cos(math.radians(angle_deg)), math.sin(math.radians(angle_deg))
    return np.array([[c, -s], [s, c]])


class Base:
    """A base on three or four feet under a round vial, with every number of it unknown.

    ``order`` is the foot that is really moved by number, ``wrong_way`` turns that lower.
    """

    def __init__(self, rng, feet=3, levelling="screws", radius_mm=None, wall_arcmin=None):
        self.rng, self.count, self.levelling = rng, feet, levelling
        self.radius = radius_mm or math.exp(rng.uniform(math.log(120), math.log(700)))
        self.wall = wall_arcmin or math.exp(rng.uniform(math.log(36), math.log(180)))
        self.pitch = rng.uniform(0.7, 2.0)
        ways = [[0, 1, 2], [0, 2, 1], [1, 2, 0], [2, 1, 0]]
        if feet == 4:
            ways = [[0, 1, 2, 3], [0, 3, 2, 1], [1, 2, 3, 0], [2, 3, 0, 1]]
        self.order = ways[rng.integers(len(ways))]
        self.wrong_way = -1 if rng.random() < 0.2 else 1
        azimuths = np.radians(np.arange(feet) * 360 / feet)
        self.toward = np.stack([np.sin(azimuths), np.cos(azimuths)], axis=1)
        self.heights = rng.uniform(0, 12, feet)

    def uphill(self):
        """The bubble's true way from the middle, in shares of the way to the wall."""
        slope = np.linalg.lstsq(self.radius * self.toward, self.heights - self.heights.mean(),
                                rcond=None)[0]  # fmt: skip
        return np.degrees(slope) * 60 / self.wall

    def reading(self, divisions=3.0):
        """What is pointed at on the drawing: foot 1 on top, the others clockwise."""
        seen = self.uphill() + self.rng.normal(0, EYE_NOISE, 2)
        out = min(1.0, float(np.hypot(*seen)))
        direction = math.degrees(math.atan2(seen[0], seen[1])) % 360
        return {
            "kind": "round",
            "bubble_divisions": divisions * out,
            "bubble_azimuth_deg": direction,
            "vial_divisions": divisions,
        }

    def follow(self, words):
        if "farthest from the bubble" in words:
            return self._until_it_leaves()
        amount = self._amount(words)
        back = words.startswith("The other way")
        if back:
            self.wrong_way = -self.wrong_way
        feet = [int(found) for found in re.findall(r"(?:foot|leg) (\d)", words)]
        signs = [-1.0 if back else 1.0, -1.0]
        for foot, sign in zip(feet, signs, strict=False):
            self._move(self.order[foot - 1], sign * amount)
        return None

    def _amount(self, words):
        turns = re.search(rf"({NUMBER}) turns?", words)
        if turns:
            return number(turns.group(1)) * self.pitch
        return float(re.search(r"([\d.]+) mm", words).group(1))

    def _move(self, foot, height_mm):
        slip = self.rng.uniform(0.75, 1.25)
        self.heights[foot] += self.wrong_way * slip * height_mm

    def _until_it_leaves(self):
        seen = self.uphill()
        far = int(np.argmin(self.toward @ seen))
        for _ in range(2000):
            if np.hypot(*self.uphill()) < 0.9:
                return
            self.heights[far] += 0.2
            far = int(np.argmin(self.toward @ self.uphill()))


class Sighted:
    """A finder on a tube that holds the landmark, with every number of its screws unknown."""

    def __init__(self, rng, screws=3, view=None, *, is_bumped=True):
        self.rng, self.count, self.is_bumped = rng, screws, is_bumped
        # right, turned by a right-angle eyepiece or the other end of the tube, mirrored, aslant
        turned = rng.choice([0, 180, 90, 270]) + rng.normal(0, 8)
        mirrored = np.diag([rng.choice([1.0, -1.0]), 1.0])
        self.view = rotated(turned) @ mirrored if view is None else view
        self.gain = 0.12 * math.exp(rng.uniform(math.log(0.3), math.log(4)))  # radii a turn
        self.slack = rng.uniform(0, 0.3)
        self.last = np.zeros(2)
        self.lost_times = 0
        start = rng.uniform(-0.9, 0.9, 2)
        self.at = start / max(1.0, float(np.hypot(*start)) / 0.9)

    def seen(self):
        """Right and up in radii; None where it is out of the view."""
        place = self.at + self.rng.normal(0, EYE_NOISE, 2)
        return None if np.hypot(*place) >= 1 else place

    def follow(self, words, wanted=(0.0, 0.0)):
        if words.startswith("Set "):
            self.at, self.last = self.rng.uniform(-0.5, 0.5, 2), np.zeros(2)
        elif words.startswith("Turn one screw"):
            self._by_two(np.array(wanted))
        elif words.startswith("Turn every screw back"):
            self._shift(-self.asked)
        else:
            self.asked = self._asked(words)
            self._shift(self.asked)
        if self.is_bumped and self.rng.random() < 0.05:
            self.at = self.at + self.rng.normal(0, 0.15, 2)

    def _asked(self, words):
        loosened = words.split(";")[0]
        found = re.findall(rf"(\d+) o'clock ({NUMBER})", loosened)
        toward = np.array([clock_direction(int(hour)) for hour, _ in found])
        return np.linalg.lstsq(toward, [number(turns) for _, turns in found], rcond=None)[0]

    def _shift(self, turn):
        made = turn * self.rng.uniform(0.8, 1.2)
        turned_about = float(made @ self.last) < 0
        size = float(np.hypot(*made))
        if turned_about and size:
            made = made * max(0.0, 1 - self.slack / size)
        self.last = turn
        self.at = self.at + self.gain * (self.view @ made)

    def _by_two(self, wanted):
        """One screw until it is nearest, then the other: both askew and a little stiff."""
        for axis in self.view.T[:: self.rng.choice([1, -1])]:
            along = float((wanted - self.at) @ axis)
            self.at = self.at + (along + self.rng.normal(0, 0.03)) * axis


def level_it(base, answer, most=60):
    """Follow a base's words; return how many turns it took, None where it never came level.

    ``answer`` takes a reading and says whether it was turned after it; returns the advice.
    """
    for turns in range(most):
        told = answer(base.reading())
        if told["is_done"]:
            return turns
        base.follow(told["instruction"])
    return None


def align_it(sighted, answer, most=60):
    """Follow a finder's words until it agrees; return how many turns it took, or None."""
    for turns in range(most):
        place = sighted.seen()
        told = answer(place)
        if told["agrees"]:
            return turns
        sighted.follow(told["instruction"], (told["wanted_right"], told["wanted_up"]))
    return None
