"""The folder that holds one's data: found to be ours before anything in it is touched."""

import errno
import os
import pwd
import shutil
import stat
import subprocess
from pathlib import Path
from typing import Any

# What lies in such a folder; one with anything else in it and no data of ours is somebody else's.
OURS = frozenset(
    {
        "lock",
        "password",
        "password.new",
        "pg",
        "pg.new",
        "postgresql.log",
        "commands.log",
        "tls",
        "profiles.json",
        "backups",
    }
)
# Less room than this is none: the database needs so much to begin with.
LEAST_FREE_BYTES = 16 * 1024 * 1024


class ServerError(RuntimeError):
    """The private database server could not be brought up; the message says what to do."""


def default_folder() -> Path:
    """Where the data lies unless told otherwise."""
    if os.geteuid() == 0:
        return Path("/var/lib/yielding-coil")
    state = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(state) / "yielding-coil"


def owner() -> pwd.struct_passwd | None:
    """Whose the data are when root starts the application: PostgreSQL refuses to run as root."""
    if os.geteuid() != 0:
        return None
    try:
        return pwd.getpwnam("postgres")
    except KeyError:
        raise ServerError("PostgreSQL is not installed; run: apt-get install postgresql") from None


def as_owner() -> dict[str, Any]:
    """How a command is run as that user."""
    return {} if owner() is None else {"user": "postgres", "group": "postgres", "extra_groups": []}


def is_full(folder: Path) -> bool:
    """Whether the disk under a folder has no room left."""
    return shutil.disk_usage(folder).free < LEAST_FREE_BYTES


def disk_full(folder: Path) -> ServerError:
    """What to say of a full disk."""
    return ServerError(
        f"The disk that holds {folder} is full. Make room on it (at least 64 MiB to begin with), then start again."
    )


def prepare(folder: Path) -> None:
    """Make a data folder, or take one that is ours; closed to everybody else.

    Raises:
        ServerError: it is a file, holds other things and no data, lies inside another data folder, belongs to
            somebody else, or cannot be written or entered.
    """
    try:
        _require_ours(folder)
        _make(folder)
        mine = owner()
        if mine is not None:
            os.chown(folder, mine.pw_uid, mine.pw_gid)
        folder.chmod(0o700)
    except OSError as why:
        raise _said(folder, why) from why
    if subprocess.run(["test", "-w", str(folder)], check=False, **as_owner()).returncode:
        raise ServerError(
            f"{folder} cannot be written by the user “postgres”, as which the database runs: a folder above it is "
            "closed to others, or the disk is read-only. Choose another one with --data."
        )


def _require_ours(folder: Path) -> None:
    """Refuse what is no folder of ours, before anything in it is touched."""
    if not folder.exists():
        _require_apart(folder)
        return
    if not folder.is_dir():
        raise ServerError(f"{folder} is a file. Choose a folder for your data with --data.")
    found = folder.stat()
    mine = owner()
    allowed = {os.geteuid()} if mine is None else {0, mine.pw_uid}
    if found.st_uid not in allowed:
        raise ServerError(
            f"{folder} belongs to {_name(found.st_uid)}. Start the application as that user, or choose another "
            "folder with --data."
        )
    if _holds_data(folder):
        return  # whatever lies beside them: a note or a copy shuts nobody out of his data
    _require_apart(folder)
    inside = sorted(os.listdir(folder))
    foreign = [name for name in inside if name not in OURS]
    if foreign:
        some = ", ".join(foreign[:3]) + (", …" if len(foreign) > 3 else "")
        raise ServerError(
            f"{folder} holds other things ({some}), and a data folder is the application's alone. "
            "Choose a new or an empty one with --data."
        )
    if not inside and stat.S_IMODE(found.st_mode) & 0o022:
        raise ServerError(
            f"{folder} is open to be written by others. Choose a new folder for your data with --data."
        )


def _holds_data(folder: Path) -> bool:
    return (folder / "password").is_file() and (folder / "pg" / "PG_VERSION").is_file()


def _require_apart(folder: Path) -> None:
    """Refuse to begin inside a folder that holds another instance's data: what is deleted there goes with it."""
    for above in folder.absolute().parents:
        if _holds_data(above):
            raise ServerError(
                f"{folder} lies inside {above}, which holds the data of another Yielding Coil. Choose a folder "
                "beside it with --data."
            )


def _make(folder: Path) -> None:
    """Make it; of the folders above, those that are made here can be entered by the database's user."""
    missing = [above for above in reversed(folder.parents) if not above.exists()]
    for above in missing:
        above.mkdir()
        above.chmod(0o755 if owner() is not None else 0o700)
    folder.mkdir(exist_ok=True)


def _name(uid: int) -> str:
    try:
        return f"the user “{pwd.getpwuid(uid).pw_name}”"
    except KeyError:
        return f"the user with the number {uid}"


def _said(folder: Path, why: OSError) -> ServerError:
    if why.errno in (errno.ENOSPC, errno.EDQUOT):
        return disk_full(folder)
    words = {
        errno.EROFS: "lies on a disk that cannot be written",
        errno.EACCES: "cannot be written by you",
        errno.EPERM: "cannot be written by you",
        errno.ENOTDIR: "cannot be made: something above it is a file",
        errno.ENAMETOOLONG: "has too long a name",
    }
    return ServerError(
        f"{folder} {words.get(why.errno or 0, f'cannot be used ({why.strerror})')}. "
        "Choose another folder for your data with --data."
    )
