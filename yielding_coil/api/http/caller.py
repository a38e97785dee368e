"""Who asks: somebody at this computer, or a device that was paired; and who may ask at all, as the owner said."""

import ipaddress
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from http.cookies import CookieError, SimpleCookie
from typing import Annotated, Any

from fastapi import Depends, Request
from starlette.datastructures import Headers

from yielding_coil.core.errors import RefusedError
from yielding_coil.store.devices import KnownDevice

# `__Host-` binds a cookie to this very name, over HTTPS only (RFC 6265bis, 4.1.3.2).
COOKIE, SECURE_COOKIE = "yc_device", "__Host-yc_device"

Network = ipaddress.IPv4Network | ipaddress.IPv6Network


# What a reverse proxy says of whom it asks for, and no browser does.
_SAYS_FOR_WHOM = ("x-forwarded-for", "forwarded", "x-real-ip")


class BehindProxyError(RefusedError):
    """A proxy that is to say for whom it asks does not say it, or is none that the owner named."""

    code = "proxy_silent"
    status = 400


class OwnerOnlyError(RefusedError):
    """Done at the computer that runs the application only."""

    code = "owner_only"
    status = 403


@dataclass(frozen=True, slots=True)
class Reach:
    """Who may reach the application beside this computer, as its owner said at the start.

    Args:
        lan: whether paired devices are served.
        names: host names and addresses that are answered to beside this computer's own.
        secure_port: port of HTTPS for others; None where there is none.
        port: of plain HTTP.
        proxies: networks from which a reverse proxy asks for others.
        authority: certificate of one's own authority (PEM), to be trusted on a phone.
    """

    lan: bool = False
    names: Callable[[], frozenset[str]] = frozenset
    port: int = 0
    secure_port: int | None = None
    proxies: tuple[Network, ...] = ()
    authority: Callable[[], bytes] | None = None


@dataclass(frozen=True, slots=True)
class Caller:
    """Who asks.

    Args:
        address: from where, a trusted proxy's word taken for it.
        local: on this computer, under one of its own names.
        secure: over HTTPS.
        device: the device that was paired; None at this computer.
    """

    address: str
    local: bool
    secure: bool
    device: KnownDevice | None = None

    @property
    def is_owner(self) -> bool:
        """Whether it may do what is done at this computer: pair, send away, say which analysers."""
        return self.local or (self.device is not None and self.device.owner)

    def require_owner(self) -> None:
        """Go on where the owner asks.

        Raises:
            OwnerOnlyError: a paired device.
        """
        if not self.is_owner:
            raise OwnerOnlyError("this is done on the computer that runs the application; a paired device cannot")


def caller_of(request: Request) -> Caller:
    """Who asks, as the guard found."""
    found: Caller = request.scope["caller"]
    return found


def owner_of(request: Request) -> Caller:
    """Who asks, where that is the owner.

    Raises:
        OwnerOnlyError: a paired device.
    """
    caller = caller_of(request)
    caller.require_owner()
    return caller


Asking = Annotated[Caller, Depends(caller_of)]
Owner = Annotated[Caller, Depends(owner_of)]


def read_address(text: str) -> ipaddress.IPv4Address | ipaddress.IPv6Address | None:
    """An address; None where it is none."""
    try:
        found = ipaddress.ip_address(text.strip())
    except ValueError:
        return None
    mapped = found.ipv4_mapped if isinstance(found, ipaddress.IPv6Address) else None
    return mapped or found


def origin_of(scope: Mapping[str, Any], headers: Headers, proxies: tuple[Network, ...]) -> tuple[str, bool, bool]:
    """From where a request comes, whether straight from this computer, and whether over HTTPS.

    A proxy's word counts only where it comes from the owner's proxies; the last hop that is none of them is taken
    (common practice: whoever asked may have written the ones before it).

    Raises:
        BehindProxyError: from a proxy, which does not say for whom; from one on this computer that was not named:
            everybody behind it would else be the owner.
    """
    peer = scope.get("client")
    address = None if peer is None else read_address(peer[0])
    secure = scope.get("scheme") == "https"
    if address is None or not any(address in network for network in proxies):
        here = address is not None and address.is_loopback
        if here and any(headers.get(name) for name in _SAYS_FOR_WHOM):
            raise BehindProxyError(
                f"a proxy asks from {address} that ./start was not told of; start it with --proxy {address}"
            )
        return str(address or ""), here, secure
    hops = [read_address(hop) for line in headers.getlist("x-forwarded-for") for hop in line.split(",")]
    others = [hop for hop in hops if hop is None or not any(hop in network for network in proxies)]
    if not others or others[-1] is None:
        raise BehindProxyError(
            "the proxy does not say for whom it asks; let it set X-Forwarded-For, and X-Forwarded-Proto"
        )
    scheme = headers.get("x-forwarded-proto", "").strip().lower()
    return str(others[-1]), False, secure or scheme == "https"


def token_of(headers: Headers, secure: bool) -> str | None:
    """The token that a device brings."""
    jar = SimpleCookie()
    for line in headers.getlist("cookie"):
        try:
            jar.load(line)
        except CookieError:
            return None
    found = jar.get(SECURE_COOKIE if secure else COOKIE)
    return found.value if found is not None and 0 < len(found.value) <= 64 else None
