"""The contract of the Hole step."""

from __future__ import annotations

from pydantic import ConfigDict, Field

from ...core.hole.hole import Hole
from ...formats.mirror import Described, Given, mirrors


@mirrors(Hole)
class HoleFields(Given):
    """A hole, and what is true there."""


class HoleOut(HoleFields):
    model_config = ConfigDict(extra="ignore")
    id: int
    version: int = Field(description="Counts up with each change")


class HoleList(Described):
    holes: list[HoleOut]
