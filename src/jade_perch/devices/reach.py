"""Where the application can be reached: the port it listens at, and addresses that can be typed."""

import socket
from contextlib import suppress
from ipaddress import ip_address

from jade_perch.core.errors import OutOfRange

FIRST_PORT, LAST_PORT = 0, 65535
WAITING = 2048  # connections that may wait to be taken


def listen(host: str, port: int) -> socket.socket:
    """Open a socket that listens at a name or address and a port.

    Raises ``OutOfRange`` for a port that is none or is taken, and a host that is not this machine.
    """
    if not FIRST_PORT <= port <= LAST_PORT:
        cure = "Choose a port such as 8427."
        raise OutOfRange("--port", port, f"{FIRST_PORT} to {LAST_PORT}", cure)
    try:
        family, kind, protocol, _, at = socket.getaddrinfo(
            host, port, type=socket.SOCK_STREAM, flags=socket.AI_PASSIVE
        )[0]
    except (socket.gaierror, UnicodeError) as error:
        allowed = "an address or name of this machine"
        raise OutOfRange("--host", host, allowed, "Leave it out for this machine alone.") from error
    found = socket.socket(family, kind, protocol)
    found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    if family == socket.AF_INET6:
        found.setsockopt(socket.IPPROTO_IPV6, socket.IPV6_V6ONLY, int(not is_everywhere(host)))
    try:
        found.bind(at)
        found.listen(WAITING)
    except OSError as error:
        found.close()
        cure = "End what uses it, or choose another --port or --host."
        what = f"{host} port {port}"
        raise OutOfRange(
            "address", what, f"one that is free here ({error.strerror})", cure
        ) from error
    return found


def is_everywhere(host: str) -> bool:
    """Return whether a host stands for every address of this machine."""
    with suppress(ValueError):
        return ip_address(host).is_unspecified
    return False


def addresses(host: str, port: int) -> list[str]:
    """Return addresses to type into a browser, the nearest first.

    Where the application listens everywhere these are the loopback one and those of this machine.
    """
    if not is_everywhere(host):
        return [_url(host, port)]
    near = "::1" if ":" in host else "127.0.0.1"
    return [_url(one, port) for one in (near, *_own(":" in host)) if one != host]


def _own(with_ipv6: bool) -> list[str]:
    """Return this machine's addresses in its network, as far as it knows them by its name."""
    with suppress(OSError):
        found = socket.getaddrinfo(socket.gethostname(), None, type=socket.SOCK_STREAM)
        known = {str(at[0]) for *_, at in found}
        plain = (one for one in sorted(known) if "%" not in one and (with_ipv6 or ":" not in one))
        return [one for one in plain if not ip_address(one).is_loopback]
    return []


def _url(host: str, port: int) -> str:
    return f"http://[{host}]:{port}/" if ":" in host else f"http://{host}:{port}/"
