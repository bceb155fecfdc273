"""Reading netCDF that may be hostile: sizes are bounded from the header, and values are taken with care.

Nothing outside the file is followed, and no array is read before its unpacked size is known.
"""

from __future__ import annotations

import io
import math
from typing import Any

import numpy as np

from ..core.checks import InputError
from ..core.reader.recording import MOST_CELLS, MOST_PINGS

MOST_ARRAY_BYTES = 4 * MOST_CELLS  # in single precision, as backscatter is
MOST_CHUNKS = 200_000  # each is looked up by itself, even where nothing was written


def check_file(content: bytes) -> None:
    """Refuse links out of the file, data kept outside it, and arrays or chunks that claim more than they may."""
    import h5py

    with h5py.File(io.BytesIO(content), "r") as file:
        waiting, seen = [("", file)], 0
        while waiting:
            path, group = waiting.pop()
            for name in group:
                seen += 1
                if seen > 500:
                    raise InputError("the file has more than 500 variables and groups: fewer are accepted")
                where = f"{path}/{name}"
                if not isinstance(group.get(name, getlink=True), h5py.HardLink):
                    raise InputError(f"{where} is a link out of its place: only data in the file itself is accepted")
                item = group[name]
                if isinstance(item, h5py.Group):
                    if where.count("/") > 8:
                        raise InputError(f"{where} is nested too deeply")
                    waiting.append((where, item))
                elif isinstance(item, h5py.Dataset):
                    if item.external or item.is_virtual:
                        raise InputError(f"{where} keeps its data outside the file: that is not followed")
                    check_size(where, item.shape or (), item.dtype.itemsize)
                    if item.chunks:
                        check_size(f"{where}, one chunk,", item.chunks, item.dtype.itemsize)
                        chunks = math.prod(-(-n // of) for n, of in zip(item.shape, item.chunks, strict=True))
                        if chunks > MOST_CHUNKS:
                            raise InputError(f"{where} is in {chunks} chunks: accepted are up to {MOST_CHUNKS}")


def check_size(where: str, shape: tuple[int, ...], itemsize: int) -> None:
    claimed = itemsize
    for one in shape:
        claimed *= int(one)
    if claimed > MOST_ARRAY_BYTES:
        raise InputError(f"{where} claims {claimed} bytes: accepted are up to {MOST_ARRAY_BYTES}")


def array_of(group: Any, name: str, where: str, dimensions: int = 1) -> np.ndarray[Any, Any]:
    if name not in group.variables:
        raise InputError(f"{where}/{name} is missing")
    variable = group.variables[name]
    if variable.dtype.kind not in "iuf":
        raise InputError(f"{where}/{name} holds {variable.dtype}: numbers are accepted")
    if len(variable.shape) != dimensions:
        raise InputError(f"{where}/{name} has {len(variable.shape)} dimensions: {dimensions} are accepted")
    if variable.shape[0] > MOST_PINGS:
        raise InputError(f"{where}/{name} claims {variable.shape[0]} pings: accepted are up to {MOST_PINGS}")
    return np.asarray(variable[...])


def text_of(attrs: Any, name: str, otherwise: str = "") -> str:
    value = attrs.get(name, otherwise)
    if isinstance(value, bytes):
        value = value.decode("utf-8", "replace")
    return printable(value) if isinstance(value, str) else otherwise


def printable(text: str) -> str:
    """The text without what cannot be shown: control characters, and bytes that were no UTF-8."""
    return "".join(one for one in text if one.isprintable() or one in "\n\t")


def few_of(variable: Any, name: str) -> np.ndarray[Any, np.dtype[np.float64]]:
    """A variable of at most a number a ping, in one dimension."""
    if variable.dtype.kind not in "iuf":
        raise InputError(f"{name} holds {variable.dtype}: numbers are accepted")
    if math.prod(variable.shape) > MOST_PINGS:
        raise InputError(f"{name} claims {math.prod(variable.shape)} numbers: accepted are up to {MOST_PINGS}")
    return np.asarray(variable[...], dtype=np.float64).ravel()


def scalar_of(file: Any, group: str, name: str) -> float | None:
    if group not in file or name not in file[group].variables:
        return None
    value = few_of(file[group].variables[name], name)
    return float(value[0]) if value.size and np.isfinite(value[0]) else None
