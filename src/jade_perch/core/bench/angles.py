"""Angles that run round: the short way from one to the other."""


def signed_deg(angle_deg: float) -> float:
    """Return an angle in degrees as -180 to below 180, the short way round.

    Source: definition.
    """
    return (angle_deg + 180) % 360 - 180
