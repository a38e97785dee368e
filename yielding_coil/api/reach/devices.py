"""Devices: a code for a new one, those that are let in, and the analysers that they may be pointed at."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

import segno
from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil.analyser.transport import plain_address
from yielding_coil.api.http import Asking, InTransaction, Owner, Reach, local_path, pair_link, router_of
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.store import builds as build_queries
from yielding_coil.store import devices as queries

router = router_of("devices")

MOST_ANALYSERS = 20


class DeviceOut(BaseModel):
    """A device that is let in; `here` where it is the one that asks."""

    id: UUID
    name: str
    owner: bool
    here: bool
    paired_at: datetime
    last_seen_at: datetime


class ReachOut(BaseModel):
    """Who is served, and where. `secure` addresses work without the network once they were opened."""

    lan: bool
    # Whether who asks may pair and send away.
    owner: bool
    addresses: list[str]
    secure: bool
    devices: list[DeviceOut]
    # Analysers that a paired device may connect to.
    analysers: list[str]


class PairingIn(BaseModel):
    """Where the device goes when it is paired."""

    to: Annotated[str, Field(max_length=200)] = "/"


class PairingOut(BaseModel):
    """A code to be typed on the device, or its picture for its camera, one for each address."""

    id: UUID
    code: str
    expires_at: datetime
    links: list[str]
    pictures: list[str]


class PairedOut(BaseModel):
    """The device that a code has paired; none while nobody used it."""

    device_id: UUID | None


class AnalysersIn(BaseModel):
    """Analysers that a paired device may connect to, as host:port or the path of a serial port."""

    addresses: Annotated[list[Annotated[str, Field(max_length=120)]], Field(max_length=MOST_ANALYSERS)]


def _addresses(request: Request) -> list[str]:
    reach: Reach = request.app.state.reach
    if not reach.lan:
        return []
    scheme, port = ("http", reach.port) if reach.secure_port is None else ("https", reach.secure_port)
    # Numbers first: names are not looked up on every network.
    names = sorted(reach.names(), key=lambda name: (not name[0].isdigit(), name))
    plain = {"http": 80, "https": 443}[scheme]
    return [f"{scheme}://{name}" + ("" if port == plain else f":{port}") for name in names]


@router.get("/devices")
def reached(request: Request, session: InTransaction, caller: Asking) -> ReachOut:
    """Who is served beside this computer; a device sees itself alone."""
    reach: Reach = request.app.state.reach
    own = None if caller.device is None else caller.device.id
    shown = [row for row in queries.devices(session) if caller.is_owner or row.id == own]
    return ReachOut(
        lan=reach.lan,
        owner=caller.is_owner,
        addresses=_addresses(request),
        secure=reach.secure_port is not None or caller.secure,
        devices=[
            DeviceOut(
                id=row.id,
                name=row.name,
                owner=row.owner,
                here=row.id == own,
                paired_at=row.paired_at,
                last_seen_at=row.last_seen_at,
            )
            for row in shown
        ],
        analysers=build_queries.settings(session).analysers,
    )


@router.post("/pairings", status_code=201)
def begin_pairing(request: Request, session: InTransaction, caller: Owner, asked: PairingIn) -> PairingOut:
    """A code that pairs one device within five minutes; the one before it does not any more."""
    made = queries.make_code(session)
    links = [pair_link(address, made.code, local_path(asked.to)) for address in _addresses(request)]
    return PairingOut(
        id=made.id, code=made.code, expires_at=made.expires_at, links=links, pictures=[_picture(x) for x in links]
    )


def _picture(link: str) -> str:
    """A QR code (ISO/IEC 18004) as the address of an SVG picture."""
    return segno.make(link, error="m", micro=False).svg_data_uri(border=4, light="white", omitsize=True)


@router.get("/pairings/{pairing_id}")
def paired_by(session: InTransaction, caller: Owner, pairing_id: UUID) -> PairedOut:
    """Whether somebody has used a code."""
    return PairedOut(device_id=queries.used_by(session, pairing_id))


@router.delete("/devices/{device_id}", status_code=204)
def send_away(session: InTransaction, caller: Asking, device_id: UUID) -> None:
    """Send a device away at once; a device may send itself away."""
    if caller.device is None or caller.device.id != device_id:
        caller.require_owner()
    queries.revoke(session, device_id)


@router.put("/devices/analysers")
def allow_analysers(session: InTransaction, caller: Owner, asked: AnalysersIn) -> AnalysersIn:
    """Say which analysers a paired device may connect to; all others are refused it."""
    plain = list(dict.fromkeys(plain_address(address) for address in asked.addresses))
    if len(plain) > MOST_ANALYSERS:
        raise OutOfDomainError("addresses", f"{len(plain)} of them", f"at most {MOST_ANALYSERS}")
    build_queries.settings(session).analysers = plain
    return AnalysersIn(addresses=plain)
