"""Colours as light and as the eye tells them apart: sRGB, light in proportion, and CIELAB.

Sources: IEC 61966-2-1 (sRGB, its curve and primaries), CIE 15 (XYZ to L*a*b*, white D65).
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError

# Linear sRGB to XYZ over the white D65 (IEC 61966-2-1): each row sums to one, so white is (1, 1, 1).
_TO_XYZ = np.array(
    [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]], dtype=np.float32
)  # fmt: skip
_TO_XYZ /= np.array([[0.9505], [1.0], [1.089]], dtype=np.float32)
_CUBE_FROM = np.float32((6.0 / 29.0) ** 3)


def light_of(srgb: Floats) -> Floats:
    """Light in proportion, 0 to 1, of sRGB values from 0 to 1, same shape. IEC 61966-2-1."""
    value = np.asarray(srgb)
    return np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)


def srgb_of(light: Floats) -> Floats:
    """sRGB values, 0 to 1, of light in proportion, same shape. IEC 61966-2-1."""
    value = np.clip(light, 0.0, 1.0)
    return np.where(value <= 0.0031308, 12.92 * value, 1.055 * np.maximum(value, 1e-9) ** (1.0 / 2.4) - 0.055)


LIGHT_OF_BYTE: NDArray[np.float32] = light_of(np.arange(256) / 255.0).astype(np.float32)


def _curve(ratio: Floats) -> Floats:
    cube = np.cbrt(np.maximum(ratio, _CUBE_FROM))
    return np.where(ratio > _CUBE_FROM, cube, ratio * np.float32((29.0 / 6.0) ** 2 / 3.0) + np.float32(4.0 / 29.0))


def lab_of(light: Floats) -> Floats:
    """L*, a*, b* of light in proportion, shape (..., 3) in and out. CIE 15.

    Light below none counts as none; above white it goes on, as an overexposed cell does.
    """
    f = _curve(np.maximum(np.asarray(light, dtype=np.float32), 0.0) @ _TO_XYZ.T)
    x, y, z = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)], axis=-1)


def light_of_hex(name: str, colours: Sequence[str]) -> Floats:
    """Light of colours as #rrggbb, shape (colours, 3). Raises ValueError that names `name` and the colour at fault."""
    found = []
    for one in colours:
        digits = one[1:] if one[:1] == "#" else ""
        if len(digits) != 6 or any(digit not in "0123456789abcdefABCDEF" for digit in digits):
            raise InputError(f"{name} is {one[:20]!r}: a colour as #1a2b3c is accepted")
        found.append([LIGHT_OF_BYTE[int(digits[at : at + 2], 16)] for at in (0, 2, 4)])
    return np.array(found, dtype=np.float64)


def hex_of(light: Floats) -> str:
    """A colour as #rrggbb of its light, shape (3,)."""
    return "#" + "".join(f"{round(float(one) * 255):02x}" for one in srgb_of(light))


def distances2(lab: Floats, to: Floats) -> Floats:
    """How far colours are from some others, squared (CIE 1976): (..., 3) and (others, 3) give (..., others)."""
    # einsum: numpy sums slowly over an axis of three.
    own = np.einsum("...i,...i->...", lab, lab)[..., None]
    found: Floats = own - 2.0 * lab @ to.T + (to**2).sum(-1)
    return np.maximum(found, 0.0)
