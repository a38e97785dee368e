"""Addresses of this computer on its networks, and the names it is known by."""

import ipaddress
import socket
import time

import psutil

# Another page, opened in the same browser under a name that leads here, has none of these.
LOCAL_NAMES = frozenset({"127.0.0.1", "localhost", "::1"})
# A laptop moves to another network: looked up again after so long.
LOOK_EVERY_S = 5.0

_looked: tuple[float, tuple[str, ...]] | None = None


def addresses() -> tuple[str, ...]:
    """IPv4 addresses under which others on the network find this computer; those of home networks first."""
    global _looked
    now = time.monotonic()
    if _looked is None or now - _looked[0] > LOOK_EVERY_S:
        _looked = (now, _addresses())
    return _looked[1]


def _addresses() -> tuple[str, ...]:
    up = {name for name, state in psutil.net_if_stats().items() if state.isup}
    found = [
        ipaddress.IPv4Address(each.address)
        for name, those in psutil.net_if_addrs().items()
        for each in those
        if name in up and each.family == socket.AF_INET
    ]
    usable = [a for a in found if not (a.is_loopback or a.is_link_local or a.is_unspecified)]
    return tuple(str(a) for a in sorted(usable, key=lambda a: (not a.is_private, int(a))))


def names() -> frozenset[str]:
    """All that others may write into the address line: addresses and the computer's own name, in small letters."""
    host = socket.gethostname().lower().rstrip(".")
    own = {host, f"{host.partition('.')[0]}.local"} if host and host not in LOCAL_NAMES else set()
    return frozenset(addresses()) | frozenset(own)
