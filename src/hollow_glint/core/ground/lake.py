"""A lake as people keep it: what it is called, where its sheet is anchored, its shore, where one goes onto the ice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated

import numpy as np

from ..checks import InputError
from ..fields import Len, Span, Text, check_fields, doc
from ..lazily import Lazily
from .plane import Plane
from .soundings import FAR_M

if TYPE_CHECKING:
    import shapely
else:
    shapely = Lazily("shapely")

MOST_SHORE = 2000
Metres = Annotated[float, Span(-FAR_M, FAR_M, "m")]


@dataclass(frozen=True)
class Lake:
    """A lake. Its shore is a ring of numbers, east and north by turns; empty where it is not known.

    Raises ValueError naming every field that is out of its span, or a shore that crosses itself.
    """

    name: Annotated[str, Text(1, 80)]
    latitude: Annotated[
        float | None, Span(-85.0, 85.0, "degrees"), doc("Of the anchor, from which all places are counted")
    ] = None
    longitude: Annotated[float | None, Span(-180.0, 180.0, "degrees")] = None
    landing_m: Annotated[tuple[Metres, ...], Len(2, 2), doc("Where one goes onto the ice, east and north")] = (0.0, 0.0)
    shore_m: Annotated[tuple[Metres, ...], Len(0, 2 * MOST_SHORE), doc("East and north by turns")] = ()

    def __post_init__(self) -> None:
        check_fields(self)
        if (self.latitude is None) != (self.longitude is None):
            raise InputError("latitude and longitude belong together: one of them is missing")
        if len(self.shore_m) % 2 or len(self.shore_m) in (2, 4):
            raise InputError(f"shore_m has {len(self.shore_m)} numbers: accepted are pairs, three places and more")
        if self.shore_m:
            ring = shapely.Polygon(np.reshape(self.shore_m, (-1, 2)))
            if not ring.is_valid or ring.area <= 0.0:
                raise InputError("shore_m crosses itself or encloses nothing: accepted is a ring in order")

    @property
    def plane(self) -> Plane:
        """Its sheet. Raises ValueError where nobody has said yet where on earth it lies."""
        if self.latitude is None or self.longitude is None:
            raise InputError("latitude is not known: say where the lake lies first, under Lake")
        return Plane(self.latitude, self.longitude)

    @property
    def shore(self) -> list[tuple[float, float]] | None:
        """Its shore as places [m]; None where it is not known."""
        return list(zip(self.shore_m[::2], self.shore_m[1::2], strict=True)) or None


def drawn_shore(places: Sequence[Sequence[float]], detail_m: float) -> list[tuple[float, float]]:
    """A ring of places [m] out of a line drawn by hand: without what is finer than `detail_m` [m] and without loops.

    Raises ValueError for one that encloses nothing.
    """
    line = shapely.LineString(np.asarray(places, dtype=np.float64).reshape(-1, 2)) if len(places) > 3 else None
    if line is None or shapely.Polygon(line.coords).area <= 0.0:
        raise InputError("shore_m encloses nothing: accepted is a line round the lake")
    pieces = shapely.get_parts(shapely.make_valid(shapely.Polygon(line.simplify(detail_m).coords)))
    areas = [one for one in pieces if isinstance(one, shapely.Polygon)]
    if not areas:
        raise InputError("shore_m encloses nothing: accepted is a line round the lake")
    largest = max(areas, key=lambda one: one.area)
    return [(float(e), float(n)) for e, n in shapely.get_coordinates(largest.exterior)[:-1][:MOST_SHORE]]
