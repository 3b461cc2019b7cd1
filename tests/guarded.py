"""Short ways to ask the Sun guard, and lines as a device sends them."""

import json
from datetime import UTC, datetime

from jade_perch.core.bench.landmark import Aim
from jade_perch.core.bench.sunguard import guard
from jade_perch.core.moments import Now
from jade_perch.core.site import Site

ANYWHERE = Site(name="A", latitude_deg=48.7, longitude_deg=8.1, zone="UTC")
# what the guard says when nothing is looked at: enough for rules that are tested alone
CLEAR = guard(Aim(at="capped"), ANYWHERE, Now(datetime(2027, 2, 13, 22, tzinfo=UTC)))


def check_landmark(site, landmark, moment_utc):
    return guard(landmark.aim(), site, Now(moment_utc))


def check_stars(site, moment_utc, minutes):
    return guard(Aim(at="stars", job_minutes=minutes), site, Now(moment_utc))


def line_text(instrument, seq, **values):
    return json.dumps({"instrument": instrument, "seq": seq, **values})
