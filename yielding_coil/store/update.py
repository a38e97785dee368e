"""An update of a data folder: a backup of before, then its tables in the newest shape."""

import os
import sys
from datetime import UTC, datetime

from sqlalchemy import Engine

from yielding_coil.store.folder import owner
from yielding_coil.store.migrate import migrate, newest_shape, require_known, shape_of
from yielding_coil.store.server import PrivateServer

# As many backups of updates are kept; older ones go when a new one is whole.
KEPT = 5


def update(server: PrivateServer, engine: Engine) -> None:
    """Bring a running server's tables to the newest shape; what they were before is kept as a dump.

    Raises:
        ServerError: the tables are of a newer version, or the backup cannot be made: then nothing was touched.
    """
    shape = shape_of(engine)
    require_known(shape)
    if shape is not None and shape != newest_shape():
        _back_up(server, shape)
    migrate(engine)


def _back_up(server: PrivateServer, shape: str) -> None:
    folder = server.folder / "backups"
    folder.mkdir(mode=0o700, exist_ok=True)
    mine = owner()
    if mine is not None:
        os.chown(folder, mine.pw_uid, mine.pw_gid)
    file = folder / f"before-{newest_shape()}-of-{shape}-{datetime.now(UTC):%Y-%m-%dT%H%M%S}.dump"
    server.dump(file)
    print(f"Updated; a backup of before: {file}", file=sys.stderr, flush=True)
    for old in sorted(folder.glob("before-*.dump"), key=lambda each: each.stat().st_mtime)[:-KEPT]:
        old.unlink()
