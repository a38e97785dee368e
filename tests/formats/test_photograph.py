"""Photographs as a phone makes them: made here with Pillow, read back with nothing of ours."""

import io
from datetime import UTC, datetime

import numpy as np
import pytest
from photographs import opened, photograph
from PIL import ExifTags, Image

from yielding_coil.core.errors import TooLargeError, UnreadableError
from yielding_coil.formats.photograph import VIEW_PX, read_photograph, view_of, without_position


@pytest.mark.parametrize("form", ["JPEG", "PNG"])
def test_what_is_in_it(form):
    found = read_photograph(photograph(form=form, gps=True, taken="2026:05:14 18:03:22", offset="+02:00"))
    assert (found.kind, found.width, found.height, found.located) == (form.lower(), 640, 400, True)
    assert found.taken_at.astimezone(UTC) == datetime(2026, 5, 14, 16, 3, 22, tzinfo=UTC)


def test_a_clock_without_a_zone_and_one_that_is_nonsense():
    assert read_photograph(photograph(taken="2026:05:14 18:03:22")).taken_at == datetime(2026, 5, 14, 18, 3, 22)
    assert read_photograph(photograph(taken="0000:00:00 00:00:00")).taken_at is None
    assert read_photograph(photograph()).taken_at is None
    assert not read_photograph(photograph()).located


# Which corner is red once it is upright: EXIF 2.32, tag 274 (rotations and mirrors).
CORNER = {1: (0, 0), 2: (1, 0), 3: (1, 1), 4: (0, 1), 5: (0, 0), 6: (1, 0), 7: (1, 1), 8: (0, 1)}


@pytest.mark.parametrize(("orientation", "corner"), CORNER.items())
def test_seen_upright(orientation, corner):
    data = photograph(orientation=orientation)
    found, view = read_photograph(data), opened(view_of(data))
    assert (found.width, found.height) == view.size == ((640, 400) if orientation < 5 else (400, 640))
    x = view.width * (1 + 2 * corner[0]) // 4
    y = view.height * (1 + 2 * corner[1]) // 4
    red, green, _ = view.getpixel((x, y))
    assert red > 180 > 100 > green


def test_a_view_is_small_and_tells_nothing_else():
    view = opened(view_of(photograph(4000, 3000, gps=True, taken="2026:05:14 18:03:22")))
    assert max(view.size) == VIEW_PX
    assert dict(view.getexif()) == {}
    assert "exif" not in view.info


def test_transparent_and_grey_pictures_have_a_view():
    for mode in ("RGBA", "LA", "L", "P", "I;16", "1"):
        out = io.BytesIO()
        Image.new(mode, (40, 30)).save(out, "PNG")
        assert opened(view_of(out.getvalue())).mode == "RGB"


@pytest.mark.parametrize("form", ["JPEG", "PNG"])
def test_position_goes_and_all_else_stays(form):
    data = photograph(form=form, gps=True, orientation=6, taken="2026:05:14 18:03:22")
    clean = without_position(data)
    assert not read_photograph(clean).located
    image = opened(clean)
    assert not image.getexif().get_ifd(ExifTags.IFD.GPSInfo)
    assert image.getexif()[ExifTags.Base.Orientation] == 6
    assert read_photograph(clean).taken_at == datetime(2026, 5, 14, 18, 3, 22)
    before, after = (np.asarray(opened(d).convert("RGB"), dtype=int) for d in (data, clean))
    assert (before == after).all()


def test_position_in_what_programs_write_goes_too():
    xmp = b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf exif:GPSLatitude="51,30.0N"/></x:xmpmeta>'
    data = photograph(xmp=xmp)
    assert read_photograph(data).located
    clean = without_position(data)
    assert not read_photograph(clean).located
    assert b"GPSLatitude" not in clean


def test_a_progressive_one_with_a_colour_profile_looks_the_same():
    data = photograph(gps=True, progressive=True, icc_profile=b"a made-up profile", comment=b"latitude 51")
    clean = without_position(data)
    assert not read_photograph(clean).located
    assert opened(clean).info["icc_profile"] == b"a made-up profile"
    assert opened(clean).tobytes() == opened(data).tobytes()


def test_what_a_camera_appended_goes_too():
    appended = photograph() + photograph(gps=True)
    assert b"GPS" not in without_position(appended)
    assert len(without_position(appended)) < len(appended)


@pytest.mark.parametrize(
    "data", [b"R 50\nX 0\n", b"", b"GIF89a" + bytes(40), b"%PDF-1.7 nothing", b"\xff\xd8\xff" + bytes(60)]
)
def test_a_renamed_file_is_refused(data):
    with pytest.raises(UnreadableError) as refused:
        read_photograph(data)
    assert refused.value.accepted == "a JPEG or a PNG of at most 16 MiB"


def test_one_that_breaks_off_is_refused():
    with pytest.raises(UnreadableError, match="breaks off or is damaged"):
        read_photograph(photograph(2000, 1500)[:-2000])


def test_too_large_is_refused():
    with pytest.raises(TooLargeError, match="20.0 MiB; at most 16 MiB"):
        read_photograph(bytes(20 * 1024 * 1024))


def test_a_bomb_of_pixels_is_refused():
    out = io.BytesIO()
    Image.new("1", (20_000, 20_000)).save(out, "PNG")
    assert len(out.getvalue()) < 100_000
    with pytest.raises(UnreadableError):
        read_photograph(out.getvalue())
