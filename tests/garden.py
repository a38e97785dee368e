"""A house and a garden: two network namespaces with a cable between them, for as long as a test lasts."""

import contextlib
import ctypes
import os
import subprocess
import uuid

import httpx
import pytest
from patience import PATIENCE_S

CLONE_NEWNET = 0x40000000
HOUSE, FIRST, MOST = "10.77.0.1", 2, 220
_libc = ctypes.CDLL(None, use_errno=True)


def ip(*arguments):
    return subprocess.run(["ip", *arguments], check=True, capture_output=True, text=True)


@contextlib.contextmanager
def house_and_garden():
    """Names of the two; the garden has many addresses, as if many stood there."""
    mark = uuid.uuid4().hex[:6]
    house, garden = f"yc-house-{mark}", f"yc-garden-{mark}"
    try:
        ip("netns", "add", house)
        ip("netns", "add", garden)
    except (subprocess.CalledProcessError, FileNotFoundError):
        pytest.skip("network namespaces take the rights of root and iproute2")
    try:
        ip("-n", house, "link", "add", "veth0", "type", "veth", "peer", "name", "veth0", "netns", garden)
        ip("-n", house, "addr", "add", f"{HOUSE}/24", "dev", "veth0")
        batch = "\n".join(f"addr add 10.77.0.{n}/24 dev veth0" for n in range(FIRST, FIRST + MOST))
        subprocess.run(["ip", "-n", garden, "-batch", "-"], input=batch, text=True, check=True)
        for place in (house, garden):
            for device in ("lo", "veth0"):
                ip("-n", place, "link", "set", device, "up")
        yield house, garden
    finally:
        for place in (house, garden):
            ip("netns", "del", place)


@contextlib.contextmanager
def standing_in(place):
    """This thread's new sockets belong to a namespace."""
    with open("/proc/thread-self/ns/net") as before, open(f"/run/netns/{place}") as there:
        _enter(there)
        try:
            yield
        finally:
            _enter(before)


def _enter(namespace):
    if _libc.setns(namespace.fileno(), CLONE_NEWNET):
        raise OSError(ctypes.get_errno(), os.strerror(ctypes.get_errno()))


def standing_at(number, port, **more):
    """A client that asks the house from one of the garden's addresses."""
    transport = httpx.HTTPTransport(verify=False, local_address=f"10.77.0.{FIRST + number}")
    return httpx.Client(base_url=f"http://{HOUSE}:{port}", transport=transport, timeout=PATIENCE_S, **more)
