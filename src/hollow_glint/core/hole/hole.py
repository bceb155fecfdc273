"""A hole as people keep it: what it is called, and what they know to be true there."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Annotated

from ..fields import Text, check_fields, doc
from .scene import (
    BottomDepth,
    BottomKindName,
    Clarity,
    FaceDepth,
    HoleDiameter,
    IceThickness,
    Scene,
    Temperature,
)


@dataclass(frozen=True)
class Hole:
    """A hole. Every field that a scene has too is a fact of the scene that is made of it.

    Raises ValueError naming every field that is out of its span or contradicts another.
    """

    name: Annotated[str, Text(1, 80)]
    bottom_depth_m: BottomDepth
    bottom_kind: BottomKindName
    ice_thickness_m: IceThickness
    face_depth_m: FaceDepth
    hole_diameter_m: HoleDiameter = 0.2
    temperature_c: Temperature = 1.0
    clarity: Clarity = "clear"
    water: Annotated[str, Text(0, 80), doc("The water it is on")] = ""
    note: Annotated[str, Text(0, 500, lines=True)] = ""

    def __post_init__(self) -> None:
        check_fields(self)
        self.scene()  # which knows what contradicts what

    def scene(self) -> Scene:
        """What is true under this hole."""
        return Scene(**{name: getattr(self, name) for name in SCENE_FIELDS})


SCENE_FIELDS = tuple(
    one.name for one in fields(Hole) if one.name in {of_scene.name for of_scene in fields(Scene)}
)  # fmt: skip
