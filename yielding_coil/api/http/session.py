"""One request, one transaction: committed before the answer goes out, undone when it fails."""

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session


def _session(request: Request) -> Iterator[Session]:
    with Session(request.app.state.engine, expire_on_commit=False) as session, session.begin():
        yield session


# The function scope ends before the answer is sent: what was acknowledged is on the disk.
InTransaction = Annotated[Session, Depends(_session, scope="function")]
