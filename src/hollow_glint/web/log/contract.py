"""The contract of the Log step: strikes."""

from __future__ import annotations

from pydantic import Field

from ...formats.fields import SettingsFields
from ...formats.mirror import Described, mirrors
from ...store.strikes import Strike
from ..contract import RowId


@mirrors(Strike, leave_out=("source_key",))
class StrikeOut(Described):
    """A hook set on a fish, with where, when and how the knobs stood."""

    settings: SettingsFields


class StrikeList(Described):
    strikes: list[StrikeOut]


class StrikeQuery(Described):
    hole_id: RowId | None = Field(None, description="Only strikes at this hole")


class StrikePath(Described):
    strike_id: RowId
