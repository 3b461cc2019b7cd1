"""How far a zone is ahead, and for how long that surely holds."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.moments import zone_ahead

ZONES = ["Europe/Vienna", "America/St_Johns", "Australia/Lord_Howe", "Asia/Kathmandu", "UTC"]
MOMENTS = st.datetimes(datetime(2000, 1, 1), datetime(2037, 12, 31), timezones=st.just(UTC))


@given(MOMENTS, st.sampled_from(ZONES), st.floats(0, 1))
def test_adding_tells_the_zones_own_time_all_the_while(moment, zone, share):
    ahead = zone_ahead(zone, moment)
    assert ahead.start_utc <= moment <= ahead.end_utc
    at = ahead.start_utc + share * (ahead.end_utc - ahead.start_utc)
    told = (at + timedelta(seconds=ahead.ahead_s)).replace(tzinfo=None)
    assert told == at.astimezone(ZoneInfo(zone)).replace(tzinfo=None)


def test_the_clocks_change_ends_it():
    noon = datetime(2027, 3, 27, 12, tzinfo=UTC)  # clocks go forward at 01:00 UTC of the 28th
    ahead = zone_ahead("Europe/Vienna", noon)
    assert ahead.ahead_s == 3600
    assert (ahead.start_utc, ahead.end_utc) == (
        datetime(2027, 3, 25, 12, tzinfo=UTC),
        datetime(2027, 3, 28, 0, tzinfo=UTC),
    )
