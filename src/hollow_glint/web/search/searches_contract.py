"""The contract of searches for real: the scenes, a search as it was done, and its debrief."""

from __future__ import annotations

from pydantic import Field

from ...core.searches.debrief import HoleTold, MarkTold, SchoolTold, SearchTold
from ...core.searches.scenes import SearchHead
from ...core.searches.searched import MOST_SEED, AimedFrom, HungFrom, MarkedSchool, Searched, Watched
from ...formats.mirror import Described, Given, mirrors
from ...store.searches import KeptSearch
from ..contract import RowId, SentenceOut
from .fans_contract import HeadKey
from .look_contract import DepthLine, SceneKey, StandsOut


class SceneToSearch(Described):
    """A scene; how often it was searched, and the best of it: most schools, then fewest holes."""

    key: SceneKey
    title: str
    teaches: str
    heads: list[SearchHead] = Field(description="What one has to look with, in order; only the last one's is marked")
    fan: HeadKey = Field(description="Which fan that is, where one has it")
    thickness_deg: float = Field(description="Of that fan")
    tries: int
    best_found: int | None
    best_holes: int | None


class ScenesToSearch(Described):
    scenes: list[SceneToSearch]
    schools: int
    lasts_s: float
    walk_m_s: float
    ready_s: float
    half_m: float = Field(description="The water reaches so far to each side of the first hole")
    holes_m: float = Field(description="Holes can be drilled so far to each side of it")
    most_marks: int


class SearchScenePath(Described):
    scene: SceneKey


class SceneSeed(Described):
    seed: int = Field(ge=0, le=MOST_SEED)


class SceneMap(Described):
    """What a map shows of it: lines of equal depth [m], places from the first hole."""

    lines: list[DepthLine]


@mirrors(HungFrom)
class HungFromFields(Given):
    """How the head hung from a moment on."""


@mirrors(AimedFrom)
class AimedFromFields(Given):
    """How a fan was aimed and set from a moment on."""


@mirrors(Watched)
class WatchedFields(Given):
    """A watch at a hole."""


@mirrors(MarkedSchool)
class MarkedSchoolFields(Given):
    """What was marked as a school."""


@mirrors(Searched)
class SearchedGiven(Given):
    """A search as it was done."""

    key: str = Field(min_length=8, max_length=64, description="A word of one's own: sent twice it is kept once")


@mirrors(KeptSearch)
class SearchOut(Described):
    """A search in numbers."""

    title: str


class SearchList(Described):
    searches: list[SearchOut]


class SearchPath(Described):
    search_id: RowId


@mirrors(HoleTold)
class HoleToldOut(Described):
    """A hole of a search."""


@mirrors(SearchTold)
class SearchToldOut(Described):
    """How a search went."""


@mirrors(MarkTold)
class MarkToldOut(Described):
    """What a mark truly was."""


@mirrors(SchoolTold)
class SchoolToldOut(Described):
    """A school of the water, and when it was marked and could have been."""


class SearchWhole(SearchOut):
    """A search with its debrief: beside it how a practised searcher did the same water, with the same heads."""

    heads: list[SearchHead]
    own: SearchToldOut
    other: SearchToldOut
    marks: list[MarkToldOut]
    schools: list[SchoolToldOut]
    said: list[SentenceOut]
    lines: list[DepthLine]
    standing: list[StandsOut]
