"""Photos as they come from a phone: JPEG, PNG or WebP, bounded before anything is decoded, turned upright, and nothing
taken from them but their pixels: place, hour and device that a phone writes into its files never get past here.

Decoding is Pillow's. Colours are taken for sRGB, whatever profile the file names.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..core.checks import InputError

MOST_PHOTO_BYTES: Final = 24 * 2**20
MOST_PIXELS: Final = 60_000_000  # a phone's largest
LEAST_SIDE: Final = 64
ENOUGH_PIXELS: Final = 9_000_000  # what is larger is halved as it is decoded: no cell of a screen needs more
ACCEPTED: Final = "a photo as JPEG, PNG or WebP"
FORMATS: Final = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True, eq=False)
class PhotoPixels:
    """A photo's pixels as sRGB bytes, shape (height, width, 3), and the size that its file says, upright: pixels may
    have been taken together."""

    pixels: NDArray[np.uint8]
    width: int
    height: int

    @property
    def coarser(self) -> float:
        """How many of the file's pixels one of these is wide."""
        return self.width / int(self.pixels.shape[1])


def bare_jpeg(photo: PhotoPixels) -> bytes:
    """A photo's pixels alone as a JPEG: nothing that the phone wrote beside them."""
    from PIL import Image  # slow to load, and most never need it

    out = io.BytesIO()
    Image.fromarray(photo.pixels).save(out, "JPEG", quality=88)
    return out.getvalue()


def read_photo_file(content: bytes) -> PhotoPixels:
    """The pixels of a photo. Raises ValueError in a plain sentence for anything that is not one."""
    if not content:
        raise InputError(f"photo is empty: {ACCEPTED} is accepted")
    if len(content) > MOST_PHOTO_BYTES:
        raise InputError(f"photo has {len(content)} bytes: up to {MOST_PHOTO_BYTES} are accepted")
    from PIL import Image, ImageOps  # slow to load, and most never need it

    # Our own bound is told first, in our own words.
    Image.MAX_IMAGE_PIXELS = None
    try:
        with Image.open(io.BytesIO(content), formats=FORMATS) as opened:
            wide, high = opened.size
            if wide * high > MOST_PIXELS:
                raise InputError(f"photo is {wide} x {high} pixels: up to {MOST_PIXELS // 10**6} million are accepted")
            if min(wide, high) < LEAST_SIDE:
                raise InputError(f"photo is {wide} x {high} pixels: at least {LEAST_SIDE} each way are accepted")
            # A phone's JPEG may carry a second picture behind the first, which is none to be played.
            pictures = getattr(opened, "n_frames", 1)
            if pictures > 1 and opened.format != "MPO":
                raise InputError(f"photo moves: it has {pictures} pictures; one still picture is accepted")
            if wide * high > ENOUGH_PIXELS:
                opened.draft("RGB", (wide // 2, high // 2))
            opened.load()
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except InputError:
        raise
    except Exception as wrong:  # whatever a decoder makes of hostile bytes: all of it is the file's fault
        said = "is cut off or damaged" if "truncated" in str(wrong) else f"cannot be read: {ACCEPTED} is accepted"
        raise InputError(f"photo {said}") from None
    full = (wide, high) if (upright.width < upright.height) == (wide < high) else (high, wide)
    while upright.width * upright.height > ENOUGH_PIXELS:
        upright = upright.reduce(2)
    return PhotoPixels(np.asarray(upright), *full)
