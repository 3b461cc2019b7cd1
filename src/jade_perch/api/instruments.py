"""Live instruments: what a stand-in shows, and the lines of a real device."""

from jade_perch.api.dependencies import LINES_BODY, FileBytes, TheHub
from jade_perch.api.stations import station
from jade_perch.core.bench.instrument import Kind
from jade_perch.core.fields import Frozen
from jade_perch.standins.instruments import InstrumentSettings

router = station("/setup/instruments", "setup")


class Fed(Frozen):
    """How many lines of a device wait to be read."""

    waiting: int


@router.get("/{kind}")
def get_settings(kind: Kind, hub: TheHub) -> InstrumentSettings:
    """Return what the stand-in shows and what is wrong with it."""
    return hub.settings[kind]


@router.put("/{kind}")
def set_settings(kind: Kind, settings: InstrumentSettings, hub: TheHub) -> InstrumentSettings:
    """Set what the stand-in shows; it is listened to again."""
    hub.unplug(kind)
    hub.settings[kind] = settings
    return settings


@router.post("/{kind}/lines", openapi_extra=LINES_BODY)
def feed_lines(kind: Kind, data: FileBytes, hub: TheHub) -> Fed:
    """Take JSON lines of a real device; from now on it is listened to."""
    lines = data.decode("utf-8", errors="replace").splitlines()
    return Fed(waiting=hub.feed(kind, [line for line in lines if line.strip()]))
