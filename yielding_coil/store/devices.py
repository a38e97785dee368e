"""Paired devices: codes that pair, tokens that are known again, and who was sent away.

A code has 8 of 31 characters, so 8.5e11 are possible; a token has 256 bits. Both come from the system's source of
chance, and of both only the SHA-256 is kept: neither can be guessed from it in the time it counts.
"""

import hashlib
import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid4

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError
from yielding_coil.store.tables import Device, Pairing

# What nobody takes for another when read from a screen: no 0 and O, no 1, I and L.
LETTERS = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"
CODE_LENGTH = 8
CODE_LASTS = timedelta(minutes=5)
# So often it is noted that a device was here.
SEEN_EVERY = timedelta(minutes=1)
MOST_DEVICES = 200


@dataclass(frozen=True, slots=True)
class MadeCode:
    """A code as it is shown, and until when it pairs."""

    id: UUID
    code: str
    expires_at: datetime


@dataclass(frozen=True, slots=True)
class KnownDevice:
    """A device that is let in."""

    id: UUID
    name: str
    owner: bool


def plain_code(typed: str) -> str:
    """A code as typed, without the marks between and in capitals."""
    return "".join(c for c in typed.upper() if c.isalnum())


def _hash(text: str) -> bytes:
    return hashlib.sha256(text.encode()).digest()


def make_code(session: Session, *, owner: bool = False) -> MadeCode:
    """A new code; those before it that nobody has used do not pair any more."""
    session.execute(delete(Pairing).where(Pairing.device_id.is_(None)))
    code = "".join(secrets.choice(LETTERS) for _ in range(CODE_LENGTH))
    # Of the database's clock, which all processes share.
    expires_at = session.execute(select(func.now() + CODE_LASTS)).scalar_one()
    row = Pairing(id=uuid4(), code_hash=_hash(code), owner=owner, expires_at=expires_at)
    session.add(row)
    session.flush()
    return MadeCode(row.id, f"{code[:4]}-{code[4:]}", expires_at)


def used_by(session: Session, pairing_id: UUID) -> UUID | None:
    """The device that a code has paired; None while nobody has used it."""
    return session.scalar(select(Pairing.device_id).where(Pairing.id == pairing_id))


def pair(session: Session, typed: str, name: str) -> str | None:
    """The token of a new device, where a code is right, of now and not used; else None.

    Two that bring the same code at once: the row is held by the first, and the second finds it used.
    """
    found = session.execute(
        select(Pairing)
        .where(
            Pairing.code_hash == _hash(plain_code(typed)),
            Pairing.device_id.is_(None),
            Pairing.expires_at > func.now(),
        )
        .with_for_update()
    ).scalar_one_or_none()
    if found is None:
        return None
    token = secrets.token_urlsafe(32)
    device = Device(id=uuid4(), name=name, token_hash=_hash(token), owner=found.owner)
    session.add(device)
    session.flush()
    found.device_id = device.id
    return token


def device_of(session: Session, token: str) -> KnownDevice | None:
    """Whose a token is; None where it is nobody's, or of a device that was sent away."""
    query = select(Device).where(Device.token_hash == _hash(token), Device.revoked_at.is_(None))
    row = session.scalars(query).one_or_none()
    if row is None:
        return None
    now = datetime.now(UTC)
    if now - row.last_seen_at > SEEN_EVERY:
        session.execute(update(Device).where(Device.id == row.id).values(last_seen_at=now))
    return KnownDevice(row.id, row.name, row.owner)


def devices(session: Session) -> Sequence[Device]:
    """Those that are let in, the newest first."""
    query = select(Device).where(Device.revoked_at.is_(None)).order_by(Device.paired_at.desc())
    return session.scalars(query.limit(MOST_DEVICES)).all()


def revoke(session: Session, device_id: UUID) -> None:
    """Send a device away: its token is nobody's from now on.

    Raises:
        NotFoundError: no such device, or it was sent away before.
    """
    gone = update(Device).where(Device.id == device_id, Device.revoked_at.is_(None))
    if not session.execute(gone.values(revoked_at=func.now()).returning(Device.id)).all():
        raise NotFoundError("this device is not paired", field="device_id")
