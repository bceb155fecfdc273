"""Shared fixtures: one well-behaved hole, the plain unit, a jig."""

from __future__ import annotations

import pytest

from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings, smallest_range
from hollow_glint.core.gear.unit import UnitProfile
from hollow_glint.core.hole.scene import Scene
from tests import effort  # noqa: F401 - sets how Hypothesis searches


@pytest.fixture
def hole() -> Scene:
    """A 31 ft mud hole with the face just under the ice."""
    return Scene(bottom_depth_m=9.75, bottom_kind="mud", ice_thickness_m=0.35, face_depth_m=0.42)


@pytest.fixture
def unit() -> UnitProfile:
    return TRAIL_UNIT


@pytest.fixture
def jig() -> Lure:
    return Lure("5 mm tungsten jig", 0.005)


@pytest.fixture
def settings(hole: Scene, unit: UnitProfile) -> Settings:
    return Settings(25.0, smallest_range(unit, hole.bottom_range_m))
