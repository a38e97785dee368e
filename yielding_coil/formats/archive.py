"""The file that builds go out in: a ZIP whose parts are named and summed in its `archive.json`; docs/archive.md."""

import hashlib
import io
import re
import struct
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import suppress
from typing import IO, Any, Self

from yielding_coil.core.errors import TooLargeError, UnreadableError

CONTENTS = "archive.json"
# Bounds of what is read: bytes of the file and of all that is in it, parts, one part, what describes them.
MOST_BYTES = 2 * 1024**3
MOST_PARTS = 20_000
MOST_PART_BYTES = 64 * 1024 * 1024
MOST_CONTENTS_BYTES = 256 * 1024 * 1024
# Text presses to a tenth at best; what presses more, and is large, is a bomb.
HIGHEST_RATIO, SMALL_BYTES = 200, 1024 * 1024
_NAME = re.compile(r"(?:[a-z]{1,20}/)?[A-Za-z0-9_-]{1,80}(?:\.[a-z0-9]{1,8}){0,2}")
# A ZIP holds no time but this one: the same build gives the same file.
_EPOCH = (1980, 1, 1, 0, 0, 0)
WHAT_IS_READ = "an archive that Yielding Coil wrote, or one by docs/archive.md"


# The list of parts in bytes: so many parts with names like ours.
MOST_LIST_BYTES = 256 * MOST_PARTS
# Whatever a file that is none, or not whole, makes of those who read it.
BROKEN = (
    zipfile.BadZipFile,
    zipfile.LargeZipFile,
    zlib.error,
    EOFError,
    OSError,
    ValueError,
    NotImplementedError,
    RuntimeError,
    struct.error,
)


def _require_short_list(file: IO[bytes]) -> None:
    """Look at how long the list of parts says it is, before it is read.

    Source:
        APPNOTE.TXT, 4.3.16: the end of central directory record; its size stands 12 bytes in.
    """
    size = file.seek(0, io.SEEK_END)
    file.seek(max(0, size - 22 - 65535))
    tail = file.read()
    at = tail.rfind(b"PK\x05\x06")
    listed = int.from_bytes(tail[at + 12 : at + 16], "little") if at >= 0 else 0
    file.seek(0)
    if listed > MOST_LIST_BYTES:
        raise TooLargeError(f"the archive lists more parts than the {MOST_PARTS} that are read", field="file")


def sum_of(data: bytes) -> str:
    """SHA-256 in hexadecimal."""
    return hashlib.sha256(data).hexdigest()


class _Pipe(io.RawIOBase):
    """What was written and not yet taken; cannot be gone back in."""

    def __init__(self) -> None:
        self._held: list[bytes] = []

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._held.append(bytes(data))
        return len(data)

    def take(self) -> bytes:
        held, self._held = b"".join(self._held), []
        return held


class ArchiveWriter:
    """Writes parts one after the other, and gives the bytes as they come."""

    def __init__(self) -> None:
        self._pipe = _Pipe()
        self._zip = zipfile.ZipFile(self._pipe, "w", allowZip64=True)

    def part(self, name: str, data: bytes, *, press: bool) -> bytes:
        """One part; the bytes of the file that are ready."""
        how = zipfile.ZIP_DEFLATED if press else zipfile.ZIP_STORED
        entry = zipfile.ZipInfo(name, _EPOCH)
        entry.external_attr = 0o644 << 16
        self._zip.writestr(entry, data, how, compresslevel=6 if press else None)
        return self._pipe.take()

    def end(self) -> bytes:
        """What closes the file."""
        self._zip.close()
        return self._pipe.take()


class ArchiveReader:
    """Reads an archive whose every part was looked at first: nothing is unpacked to a disk.

    Raises:
        UnreadableError: no ZIP, a part with a name of its own mind, twice, encrypted, a bomb.
        TooLargeError: more in it than is read.
    """

    def __init__(self, file: IO[bytes]) -> None:
        _require_short_list(file)
        try:
            self._zip = zipfile.ZipFile(file)
        except BROKEN as why:
            raise UnreadableError(
                f"this is no archive, or it was cut short ({why}); take it out again", accepted=WHAT_IS_READ
            ) from why
        self._parts: dict[str, zipfile.ZipInfo] = {}
        infos = self._zip.infolist()
        if len(infos) > MOST_PARTS:
            raise TooLargeError(f"the archive has {len(infos)} parts; at most {MOST_PARTS} are read", field="file")
        for info in infos:
            self._look_at(info)
        if sum(info.file_size for info in infos) > MOST_BYTES:
            raise TooLargeError(
                "unpacked the archive has more than 2 GiB; take the builds out one by one", field="file"
            )
        if CONTENTS not in self._parts:
            raise UnreadableError(f"the archive has no {CONTENTS}, which says what is in it", accepted=WHAT_IS_READ)

    def _look_at(self, info: zipfile.ZipInfo) -> None:
        name = info.orig_filename
        if not _NAME.fullmatch(name) or info.is_dir():
            raise UnreadableError(
                f"the archive has a part called “{_plain(name)}”; parts are called as docs/archive.md has it, "
                "without a way out of their folder",
                came_in=_plain(name),
            )
        if name in self._parts:
            raise UnreadableError(f"the part {name} is there twice")
        if info.flag_bits & 0x1:
            raise UnreadableError(f"the part {name} is encrypted; archives are open")
        if info.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
            raise UnreadableError(
                f"the part {name} is pressed in a way that is not read here; stored or deflated is"
            )
        most = MOST_CONTENTS_BYTES if name == CONTENTS else MOST_PART_BYTES
        if info.file_size > most:
            raise TooLargeError(f"the part {name} has more than {most // 2**20} MiB", field="file")
        if info.file_size > SMALL_BYTES and info.file_size > HIGHEST_RATIO * max(info.compress_size, 1):
            raise UnreadableError(f"the part {name} unpacks to {HIGHEST_RATIO} times its size and more: a bomb")
        self._parts[name] = info

    @property
    def names(self) -> frozenset[str]:
        """Of every part but the contents."""
        return frozenset(self._parts) - {CONTENTS}

    @property
    def unpacked_bytes(self) -> int:
        """All of it."""
        return sum(info.file_size for info in self._parts.values())

    def read(self, name: str) -> bytes:
        """One part, whole.

        Raises:
            UnreadableError: it is not there, damaged, or other than it says.
        """
        info = self._parts.get(name)
        if info is None:
            raise UnreadableError(f"the part {_plain(name)} is named and not there; take the archive out again")
        try:
            with self._zip.open(info) as part:
                # One byte more than it says would show that it lies.
                data = part.read(info.file_size + 1)
        except BROKEN as why:
            raise UnreadableError(f"the part {name} is damaged ({why}); take the archive out again") from why
        if len(data) != info.file_size:
            raise UnreadableError(f"the part {name} is not as long as it says; take the archive out again")
        return data

    def close(self) -> None:
        """Ends it."""
        with suppress(OSError):
            self._zip.close()

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *why: object) -> None:
        self.close()


def _plain(name: str) -> str:
    clean = "".join(c if c.isprintable() else "·" for c in name)
    return clean if len(clean) <= 60 else clean[:59] + "…"


def chunks(data: bytes, size: int = 1 << 20) -> Iterator[bytes]:
    """Bytes in pieces that a reply takes."""
    for at in range(0, len(data), size):
        yield data[at : at + size]
