"""Photographs: what is in one, a smaller view of it turned upright, and one that does not tell its place."""

import contextlib
import io
import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta, timezone
from typing import Literal

from PIL import ExifTags, Image, ImageOps, UnidentifiedImageError

from yielding_coil.core.errors import TooLargeError, UnreadableError

MOST_BYTES = 16 * 1024 * 1024
MOST_PIXELS = 100_000_000
# The longer side of a view, pixels, and how it is pressed.
VIEW_PX, VIEW_QUALITY = 1280, 82
ACCEPTED = "a JPEG or a PNG of at most 16 MiB"
_KINDS: dict[str | None, Literal["jpeg", "png"]] = {"JPEG": "jpeg", "MPO": "jpeg", "PNG": "png"}
# What may tell a place beside the GPS block: XMP and notes of programs are left out as a whole.
_SPOKEN = ("xmp", "XML:com.adobe.xmp", "Raw profile type exif", "Raw profile type xmp", "comment", "photoshop")
# Tags of TIFF that hold whole blocks of notes (from memory).
IPTC, PHOTOSHOP = 0x83BB, 0x8649
_PLACE = ("gps", "location", "geo:", "latitude", "longitude")


@dataclass(frozen=True, slots=True)
class Photograph:
    """What is in a photograph.

    Args:
        width, height: pixels, as it is seen upright.
        located: whether it says where it was taken.
        taken_at: by the camera's clock; without a zone where it names none, None where it says nothing.
    """

    kind: Literal["jpeg", "png"]
    width: int
    height: int
    located: bool
    taken_at: datetime | None


def read_photograph(data: bytes, *, to_its_end: bool = True) -> Photograph:
    """What a file holds.

    Args:
        to_its_end: whether the picture is read whole, which shows where it breaks off.

    Raises:
        TooLargeError: more than 16 MiB.
        UnreadableError: neither JPEG nor PNG, broken off, or of more pixels than any camera makes.
    """
    with _opened(data) as image:
        kind, size = _KINDS[image.format], image.size
        try:
            # Small is enough to see that it is whole; what is written beside a PNG may follow it.
            image.draft("RGB", (size[0] // 8, size[1] // 8))
            if to_its_end or kind == "png":
                image.load()
        except (OSError, SyntaxError, ValueError) as why:
            raise UnreadableError(
                f"this picture breaks off or is damaged ({why}); copy it from the camera again", accepted=ACCEPTED
            ) from why
        upright = size if _orientation(image) < 5 else size[::-1]
        return Photograph(kind, *upright, _is_located(image), _taken_at(image))


def view_of(data: bytes) -> bytes:
    """A smaller JPEG of it, upright, that tells nothing but what is seen."""
    with _opened(data) as image:
        image.draft("RGB", (2 * VIEW_PX, 2 * VIEW_PX))
        upright = ImageOps.exif_transpose(image)
        upright.thumbnail((VIEW_PX, VIEW_PX))
        flat = _on_white(upright)
        out = io.BytesIO()
        # Nothing of what the camera wrote beside the picture goes along.
        flat.info.clear()
        flat.save(out, "JPEG", quality=VIEW_QUALITY, optimize=True)
    return out.getvalue()


def without_position(data: bytes) -> bytes:
    """The same picture without where it was taken: orientation and date stay, notes of programs go.

    A JPEG is not pressed anew: what is seen stays to the bit. What a camera appended (other pictures, films) goes.
    """
    with _opened(data) as image:
        image.load()
        exif = image.getexif()
        for tag in (ExifTags.IFD.GPSInfo, ExifTags.Base.XMLPacket, IPTC, PHOTOSHOP):
            exif.pop(tag, None)
        beside = exif.get_ifd(ExifTags.IFD.Exif)
        for tag in (ExifTags.Base.MakerNote, ExifTags.Base.UserComment):
            beside.pop(tag, None)
        if _KINDS[image.format] == "jpeg":
            return _with_notes(data, exif.tobytes())
        clean = image.copy()
        clean.info.clear()
        out = io.BytesIO()
        clean.save(out, "PNG", exif=exif, icc_profile=image.info.get("icc_profile"))
    return out.getvalue()


def _with_notes(data: bytes, exif: bytes) -> bytes:
    """A JPEG with other EXIF, and of what else is beside the picture only what its colours need.

    Source:
        ITU-T T.81, annex B: segments with their lengths; in a scan 0xFF is followed by 0 or a restart marker.
    """
    out = [b"\xff\xd8", _segment(0xE1, exif)]
    at = 2
    while 0 <= at < len(data) - 3:
        if data[at] != 0xFF:
            at = data.find(b"\xff", at)
            continue
        marker = data[at + 1]
        if marker == 0xD9:
            break
        if marker == 0xFF:
            at += 1
            continue
        end = at + 2 + int.from_bytes(data[at + 2 : at + 4], "big")
        body = data[at + 4 : end]
        if _is_needed(marker, body):
            out.append(data[at:end])
        if marker == 0xDA:
            at = end
            end = _scan_end(data, at)
            out.append(data[at:end])
        at = end
    return b"".join(out) + b"\xff\xd9"


def _segment(marker: int, body: bytes) -> bytes:
    return bytes((0xFF, marker)) + (len(body) + 2).to_bytes(2, "big") + body


def _is_needed(marker: int, body: bytes) -> bool:
    """Whether the picture looks otherwise without it: colour profile, Adobe's transform, all that is no note."""
    if marker == 0xE2:
        return body.startswith(b"ICC_PROFILE")
    return marker in (0xE0, 0xEE) or not (0xE1 <= marker <= 0xEF or marker == 0xFE)


def _scan_end(data: bytes, at: int) -> int:
    """Where the next marker stands."""
    while True:
        at = data.find(b"\xff", at)
        if at < 0 or at + 1 >= len(data):
            return len(data)
        if data[at + 1] != 0 and not 0xD0 <= data[at + 1] <= 0xD7:
            return at
        at += 2


@contextlib.contextmanager
def _opened(data: bytes) -> Iterator[Image.Image]:
    if len(data) > MOST_BYTES:
        raise TooLargeError(
            f"the picture has {len(data) / 2**20:.1f} MiB; at most 16 MiB are kept: send it smaller", field="file"
        )
    try:
        with warnings.catch_warnings():
            # Pixels are bounded below, in words; a wrong tag beside the picture does not matter.
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data), formats=("JPEG", "PNG")) as image:
                if image.width * image.height > MOST_PIXELS:
                    raise UnreadableError(
                        f"this picture has {image.width} by {image.height} pixels; at most 100 million are read",
                        accepted=ACCEPTED,
                    )
                yield image
    except (UnidentifiedImageError, Image.DecompressionBombError) as why:
        raise UnreadableError(
            f"this is no JPEG and no PNG, whatever it is called: it begins with “{_begins(data)}”",
            came_in=_begins(data),
            accepted=ACCEPTED,
        ) from why


def _begins(data: bytes) -> str:
    return "".join(chr(b) if 32 <= b < 127 else "·" for b in data[:12])


def _orientation(image: Image.Image) -> int:
    found = image.getexif().get(ExifTags.Base.Orientation, 1)
    return found if isinstance(found, int) else 1


def _is_located(image: Image.Image) -> bool:
    if image.getexif().get_ifd(ExifTags.IFD.GPSInfo):
        return True
    beside = b" ".join(_bytes(image.info.get(name)) for name in _SPOKEN).lower()
    return any(word.encode() in beside for word in _PLACE)


def _bytes(value: object) -> bytes:
    if isinstance(value, bytes):
        return value
    return str(value).encode() if value is not None else b""


def _taken_at(image: Image.Image) -> datetime | None:
    beside = image.getexif().get_ifd(ExifTags.IFD.Exif)
    text = beside.get(ExifTags.Base.DateTimeOriginal)
    try:
        found = datetime.strptime(str(text).strip("\0 "), "%Y:%m:%d %H:%M:%S")
    except ValueError:
        return None
    offset = str(beside.get(ExifTags.Base.OffsetTimeOriginal, "")).strip("\0 ")
    try:
        sign = -1 if offset.startswith("-") else 1
        hours, minutes = offset.lstrip("+-").split(":")
        return found.replace(tzinfo=timezone(sign * timedelta(hours=int(hours), minutes=int(minutes))))
    except ValueError:
        return found


def _on_white(image: Image.Image) -> Image.Image:
    """Without transparency, as on paper."""
    if image.mode in ("RGBA", "LA", "PA", "P"):
        clear = image.convert("RGBA")
        white = Image.new("RGBA", clear.size, "white")
        return Image.alpha_composite(white, clear).convert("RGB")
    return image if image.mode == "RGB" else image.convert("RGB")
