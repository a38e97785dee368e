"""Photographs as a phone makes them, made up."""

import io

from PIL import ExifTags, Image

GPS = {1: "N", 2: (51.0, 30.0, 0.0), 3: "W", 4: (0.0, 7.0, 0.0)}


def photograph(width=640, height=400, *, form="JPEG", orientation=None, gps=False, taken=None, offset=None, **more):
    """A picture: its upper left quarter red, all else grey."""
    image = Image.new("RGB", (width, height), (120, 120, 120))
    image.paste((220, 20, 20), (0, 0, width // 2, height // 2))
    exif = Image.Exif()
    exif[ExifTags.Base.Software] = "made up"
    if orientation:
        exif[ExifTags.Base.Orientation] = orientation
    if gps:
        exif.get_ifd(ExifTags.IFD.GPSInfo).update(GPS)
    beside = exif.get_ifd(ExifTags.IFD.Exif)
    if taken:
        beside[ExifTags.Base.DateTimeOriginal] = taken
    if offset:
        beside[ExifTags.Base.OffsetTimeOriginal] = offset
    out = io.BytesIO()
    image.save(out, form, exif=exif, **({"quality": 90} if form == "JPEG" else {}), **more)
    return out.getvalue()


def opened(data):
    """The picture in a file."""
    image = Image.open(io.BytesIO(data))
    image.load()
    return image
