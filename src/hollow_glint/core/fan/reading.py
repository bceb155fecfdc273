"""What the fan's picture says while one fishes: where lures show, where fish are, how far from the lure, and contact.

From the picture and the line alone: how much line is out and where the hole is, an angler knows; who swims there, the
reader must see. A mark is what stands out of the water round it and of what always shows at its place (a clutter map:
Skolnik, Introduction to Radar Systems, 2001, from memory), small in both directions and clear of the bed. What is
weaker at the very range of something far louder is that one's side lobe.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..acoustics.array import half_power_width
from ..checks import Floats
from ..lazily import Lazily
from ..reader.moments import DO
from ..reader.report import Moment, MomentKind
from ..search.sweep import evening_db
from ..wording import Quantity, Sentence
from .look import FanFrame, FanLook
from .lures_heard import Blob, LureSeen, lures_seen
from .measure import LONGEST_M, OVER_DB
from .picture import places

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

FRAMES: Final = 3  # that a reading is taken from
LEAST_CELLS: Final = 3
BLOCK: Final = 8  # beams whose median is the water of a range
NEAREST_M: Final = 0.6  # nearer, the head's own ringing is all there is
LN10_10: Final = np.float32(np.log(10.0) / 10.0)
CLEAR_M: Final = 0.3  # a mark nearer to the bed is the bed's
STEEP_DEG: Final = 60.0  # beams so near to straight down tell where the bed is
WIDEST_M: Final = 2.0
SEAM_DEG, TORN_M = 4.0, 0.5
OWN_M: Final = 0.12  # what is so near to a lure's mark is the lure
SAME_M: Final = 0.55  # from reading to reading a mark moves no further
LOST_S: Final = 1.6
TOLD_AFTER_S: Final = 0.7
LEARNS_S: Final = 1.5  # what always shows is learnt for so long before anything is told
HELD_M, MOST_HELD = 0.3, 12  # round so many fish nothing is learnt
LEARNS_DB: Final = 0.4  # then a reading moves it no further: a running median
ABOVE_DB: Final = 1.6  # from an exponential law's median to its mean
LOBE_DB, LOBE_M = 10.0, 0.12  # so much weaker at the same range is a side lobe
STANDS_M, STANDS_S = 0.12, 6.0  # what has moved no further in so long is no fish
OVER_S: Final = 2.0  # a speed is taken over the last seconds
COMES_M_S, CHARGES_M_S = 0.04, 0.5
TOUCH_M: Final = 0.22  # marks that are nearer are as good as one
NEAR_M: Final = 3.0  # a fish within this has to do with the lure
AGAIN_S: Final = 8.0
TOGETHER_S: Final = 4.0
HOLDS_S: Final = 4.0  # so long a moment stands
OF_THE_NEAREST: Final = ("fish in the cone", "coming up", "charging")
# A lure's mark so much louder than alone, in the median of so many readings, has a fish in it.
SWELLS_DB, SWELLS_READINGS = 5.0, 5
ALONE_M: Final = 1.0
ALONE_SHARE: Final = 0.15


@dataclass(frozen=True)
class FishSeen:
    """A fish as it is followed: its number, its mark, how far below the lure [m] and how far from it through the
    picture [m], and how fast it comes nearer [m/s]; None before that is known."""

    number: int
    mark: Blob
    gap_m: float
    apart_m: float
    closing_m_s: float | None


@dataclass(frozen=True)
class FanReading:
    """What the picture says now. `touching`: a fish's mark is at the lure's, or has just gone into it."""

    time_s: float
    lures: tuple[LureSeen, ...]
    fish: tuple[FishSeen, ...]
    touching: bool
    moment: Moment | None


class Clutter:
    """What always shows: for each cell a running median of its level (beams, bins) [dB]. It is learnt anew whenever the
    head hangs or listens otherwise."""

    def __init__(self) -> None:
        self._of: object = None
        self._since_s = 0.0
        self._first: list[Floats] = []
        self.level_db: Floats | None = None

    def learn(self, level_db: Floats, of: object, now_s: float, held: NDArray[np.bool_] | None = None) -> bool:
        """One reading more, of a head that hangs and listens as `of` says; whether enough is known. What is `held`
        (beams, bins) stays as it is: a fish that hangs still there must not become a thing that always shows."""
        if of != self._of:
            self._of, self._since_s, self._first, self.level_db = of, now_s, [], None
        if now_s - self._since_s < LEARNS_S or self.level_db is None:
            self._first.append(level_db)
            self.level_db = np.median(self._first, axis=0)
        else:
            self._first = []
            step = np.clip(level_db - self.level_db, -LEARNS_DB, LEARNS_DB)
            self.level_db += step if held is None else np.where(held, np.minimum(step, 0.0), step)
        return now_s - self._since_s >= LEARNS_S


@dataclass(frozen=True, eq=False)
class _Picture:
    """The last frames as one: mean power, its level and that of the water round each cell [dB], which cells are open
    water within the picture, and which of those lie at its edge; all (beams, bins). Where each is drawn [m]."""

    power: Floats
    level_db: Floats
    under_db: Floats
    water: NDArray[np.bool_]
    edge: NDArray[np.bool_]
    ahead_m: Floats
    deep_m: Floats


def _picture_of(look: FanLook) -> _Picture | None:
    """The last frames as the head hangs now; None before there is one."""
    frames = [one for one in look.frames if one.hang == look.hang][-FRAMES:]
    if not frames:
        return None
    here, settings = look.water, look.settings
    power = np.mean([np.exp(one.level_db.astype(np.float32) * LN10_10) for one in frames], axis=0)
    ahead, deep = places(here, look.head, look.hang, settings)
    shown = (ahead <= settings.ahead_m) & (ahead >= -settings.behind_m) & (deep <= settings.deep_m)
    bed = _bed_line(frames, look, ahead, deep)
    water = shown & (here.range_m > NEAREST_M)
    if bed is not None:
        water &= deep < bed[0] + bed[1] * ahead - CLEAR_M
    edge = ndimage.binary_dilation(~water & shown)
    level, under = (10.0 * np.log10(np.maximum(one, 1e-3)) for one in (power, _around(power)))
    return _Picture(power, level, under, water, edge, ahead, deep)


def blobs(look: FanLook, always_db: Floats | None = None) -> list[Blob]:
    """Every mark of the last frames that is small, stands out of the water round it and of what `always` shows
    (beams, bins) [dB], and is clear of the bed; the brightest first."""
    seen = _picture_of(look)
    return [] if seen is None else _marks(look, seen, always_db)


def swimming(look: FanLook, clutter: Clutter) -> list[Blob] | None:
    """The same of what does not always show, with one reading more for the clutter map; None until that is learnt."""
    seen = _picture_of(look)
    if seen is None or not clutter.learn(seen.level_db, (look.hang, look.settings.reach_m), look.time_s):
        return None
    return _marks(look, seen, clutter.level_db)


def _marks(look: FanLook, seen: _Picture, always_db: Floats | None) -> list[Blob]:
    under = seen.under_db if always_db is None else np.maximum(seen.under_db, always_db + ABOVE_DB)
    over = seen.level_db - under
    # What is new shows in its side lobes too, wherever it is: near the bed, or beyond the picture's edge.
    where = seen.water if always_db is None else look.water.range_m > NEAREST_M
    labels, count = ndimage.label((over >= OVER_DB) & where, np.ones((3, 3), dtype=np.intp))
    if not count:
        return []
    angle_step = np.radians(look.head.fan_deg / look.head.beams)
    found: list[tuple[Blob, bool]] = []
    for number, (rows, columns) in enumerate(ndimage.find_objects(labels), start=1):
        part = labels[rows, columns] == number
        if part.sum() < LEAST_CELLS:
            continue
        r = look.water.range_m[columns]
        long = float(np.ptp(r)) + look.water.bin_m
        wide = (rows.stop - rows.start) * angle_step * float(r.mean())
        is_mark = (
            long < LONGEST_M
            and wide < WIDEST_M
            and not (part & seen.edge[rows, columns]).any()
            and bool((seen.water[rows, columns] | ~part).all())
        )
        weight = np.where(part, seen.power[rows, columns], 0.0)
        total = float(weight.sum())
        ahead, deep = (float((weight * one[rows, columns]).sum() / total) for one in (seen.ahead_m, seen.deep_m))
        top = float(over[rows, columns][part].max()), float(seen.level_db[rows, columns][part].max())
        found.append((Blob(ahead, deep, top[0], wide, long, top[1], float((weight * r).sum() / total)), is_mark))
    found.sort(key=lambda one: -one[0].level_db)
    return [
        one for k, (one, is_mark) in enumerate(found)
        if is_mark and not any(_lobe_of(one, louder) for louder, _ in found[:k])
    ]  # fmt: skip


def _lobe_of(one: Blob, louder: Blob) -> bool:
    """Whether a mark is where a louder one's side lobes are drawn."""
    return abs(one.range_m - louder.range_m) < LOBE_M and one.level_db < louder.level_db - LOBE_DB


def _around(power: Floats) -> Floats:
    """The water round each cell: of a block of beams at the same range the median, between blocks on a line."""
    beams, bins = power.shape
    blocks = beams // BLOCK
    middle = np.median(power[: blocks * BLOCK].reshape(blocks, BLOCK, bins), axis=1)
    # The darkest of a block and its two neighbours: a fish or a bit of bed that fills a block is not the water.
    spread = ndimage.median_filter(middle, size=(5, 1), mode="nearest")
    at = np.clip((np.arange(beams) + 0.5) / BLOCK - 0.5, 0.0, blocks - 1.0)
    low = np.minimum(at.astype(np.intp), max(blocks - 2, 0))
    share = (at - low)[:, None]
    return np.asarray(np.maximum(spread[low] * (1.0 - share) + spread[low + (blocks > 1)] * share, 1e-3))


def _bed_line(frames: list[FanFrame], look: FanLook, ahead: Floats, deep: Floats) -> tuple[float, float] | None:
    """The bed as a line in the picture, depth at the hole and slope; None where no bed is seen."""
    here = look.water
    level = np.mean([one.level_db.astype(np.float32) for one in frames], axis=0)
    level = ndimage.uniform_filter1d(level + evening_db(here.range_m, here.absorption_db_m), 5, axis=1)
    past = here.range_m > 1.0
    steep = np.degrees(np.arctan2(deep[:, -1] - look.hang.depth_m, np.abs(ahead[:, -1]))) > 90.0 - STEEP_DEG
    rows = np.flatnonzero(steep)
    if rows.size < 8:
        return None
    part = np.where(past, level[rows], -300.0)
    at = part.argmax(axis=1)
    strong = part[np.arange(rows.size), at] > np.median(part[:, past], axis=1) + 12.0
    if strong.sum() < 8:
        return None
    x, z = ahead[rows[strong], at[strong]], deep[rows[strong], at[strong]]
    # Theil and Sen's line: a fish or two that is louder than the bed behind it bends it no further than it should.
    i, j = np.triu_indices(x.size, k=max(x.size // 4, 1))
    slope = float(np.median((z[j] - z[i]) / np.where(np.abs(x[j] - x[i]) > 0.2, x[j] - x[i], np.inf)))
    return float(np.median(z - slope * x)), slope


def _is_lure(mark: Blob, lure: LureSeen) -> bool:
    """Whether a mark is a lure's own, or one of its side lobes."""
    if lure.mark is None:
        return False
    apart = np.hypot(mark.ahead_m - lure.mark.ahead_m, mark.depth_m - lure.mark.depth_m)
    # In a weak strip the edge beams of both sub-arrays draw it, each on its own side.
    torn = lure.from_seam_deg < SEAM_DEG and apart < TORN_M and abs(mark.range_m - lure.mark.range_m) < LOBE_M
    return bool(apart < OWN_M or torn or _lobe_of(mark, lure.mark))


@dataclass(eq=False)
class _Track:  # two are never equal: each is its own
    """A mark that is followed."""

    number: int
    since_s: float
    last_s: float
    seen: deque[tuple[float, float, float]] = field(default_factory=lambda: deque(maxlen=60))  # time, ahead, depth
    mark: Blob | None = None
    moved_m: float = 0.0
    told_s: dict[MomentKind, float] = field(default_factory=dict)
    touched_s: float = -1e9

    def see(self, now_s: float, mark: Blob) -> None:
        """It is here now."""
        self.mark, self.last_s = mark, now_s
        self.seen.append((now_s, mark.ahead_m, mark.depth_m))
        self.moved_m = max(self.moved_m, float(np.hypot(*np.subtract(self.seen[-1][1:], self.seen[0][1:]))))

    def stands(self, now_s: float) -> bool:
        """Whether it has not moved for as long as it is known: a twig, a stone."""
        return now_s - self.since_s > STANDS_S and self.moved_m < STANDS_M


class FanReader:
    """Reads a fan's picture again and again. It remembers which mark is which, and what it has told."""

    def __init__(self) -> None:
        self._tracks: list[_Track] = []
        self._numbers = 0
        self._hang: object = None
        self._clutter = Clutter()
        self._apart: dict[int, deque[tuple[float, float]]] = {}
        self._alone_db: float | None = None  # how loud the lure's mark is with nobody near
        self._loud: deque[float] = deque(maxlen=SWELLS_READINGS)  # by how much it is louder now
        self._at_lure: _Track | None = None  # who went into its mark and has not come out
        self._came_s = -1e9  # when one was told of last
        self.moment: Moment | None = None

    def see(self, look: FanLook) -> FanReading:
        """What the picture says now."""
        if look.hang != self._hang:  # the picture is another
            self._hang, self._tracks, self._apart = look.hang, [], {}
        now = look.time_s
        # A lure that hangs still is a thing that always shows: it is looked for by where its line is.
        picture = _picture_of(look)
        lures = lures_seen(look, [] if picture is None else _marks(look, picture, None))
        held = None if picture is None else self._held(picture)
        of = look.hang, look.settings.reach_m
        if picture is not None and self._clutter.learn(picture.level_db, of, now, held):
            swims = _marks(look, picture, self._clutter.level_db)
            self._follow([one for one in swims if not any(_is_lure(one, lure) for lure in lures)], now)
        own = next((one for one in lures if one.is_yours), None)
        fish = [] if own is None else self._fish(own, now)
        touching = self._touching(look, own, fish, now)
        moment = self._tell(fish, touching, now)
        if moment is not None:
            self.moment = moment
        elif self.moment is not None and (now - self.moment.time_s > HOLDS_S or _of_another(self.moment, fish)):
            self.moment = None
        return FanReading(now, lures, tuple(fish), touching is not None, self.moment)

    def _held(self, picture: _Picture) -> NDArray[np.bool_] | None:
        """Where the fish are that are followed (beams, bins); None without any."""
        marks = [one.mark for one in self._tracks if one.mark is not None and not one.stands(one.last_s)]
        near = [np.hypot(picture.ahead_m - m.ahead_m, picture.deep_m - m.depth_m) < HELD_M for m in marks[:MOST_HELD]]
        return np.logical_or.reduce(near) if near else None

    def _follow(self, marks: list[Blob], now: float) -> None:
        left = list(marks)
        for track in sorted(self._tracks, key=lambda one: one.since_s):
            _, x, z = track.seen[-1]
            near = min(left, key=lambda one: float(np.hypot(one.ahead_m - x, one.depth_m - z)), default=None)
            reach = SAME_M + 0.3 * (now - track.last_s)
            if near is None or np.hypot(near.ahead_m - x, near.depth_m - z) > reach:
                continue
            left.remove(near)
            track.see(now, near)
        for one in left:
            self._numbers += 1
            track = _Track(self._numbers, now, now)
            track.see(now, one)
            self._tracks.append(track)

    def _fish(self, own: LureSeen, now: float) -> list[FishSeen]:
        """Who is there and not known to stand still, the nearest to the lure first."""
        out = []
        for track in self._tracks:
            if track.last_s < now or now - track.since_s < TOLD_AFTER_S or track.stands(now) or track.mark is None:
                continue
            at = own.mark or Blob(own.ahead_m, own.depth_m, 0.0, 0.0, 0.0)
            gap = track.mark.depth_m - at.depth_m
            apart = float(np.hypot(track.mark.ahead_m - at.ahead_m, gap))
            past = self._apart.setdefault(track.number, deque(maxlen=40))
            past.append((now, apart))
            out.append(FishSeen(track.number, track.mark, gap, apart, _closing(past, now)))
        return sorted(out, key=lambda one: one.apart_m)

    def _touching(self, look: FanLook, own: LureSeen | None, fish: list[FishSeen], now: float) -> _Track | None:
        """Which fish is at the lure: its mark is as good as one with the lure's, or was lost just there."""
        if own is None:
            return None
        r = float(np.hypot(own.ahead_m, own.depth_m - look.hang.depth_m))
        wavelength = look.water.sound_speed_m_s / look.head.frequency_hz
        near_m = max(TOUCH_M, 1.5 * float(half_power_width(look.head.line, 0.0, wavelength)) * r)
        by_number = {track.number: track for track in self._tracks}
        swollen = self._swells(own, fish)
        for one in fish:
            if one.apart_m < near_m:
                by_number[one.number].touched_s = now
                return by_number[one.number]
        at = own.mark or own
        if self._at_lure is not None and swollen:
            self._at_lure.touched_s = now
            return self._at_lure
        self._at_lure = None
        for track in self._tracks:
            since = now - track.last_s
            _, x, z = track.seen[-1]
            gone_in = 0.0 < since < LOST_S and now - track.since_s > TOLD_AFTER_S + since and not track.stands(now)
            if gone_in and np.hypot(x - at.ahead_m, z - at.depth_m) < near_m + 0.3 and own.mark is not None:
                track.touched_s = now
                self._at_lure = track
                return track
        return None

    def _swells(self, own: LureSeen, fish: list[FishSeen]) -> bool:
        """Whether the lure's mark is louder than it is alone, which is learnt while nobody is near."""
        if own.mark is None:
            self._loud.clear()
            return False
        level = own.mark.level_db
        if self._alone_db is None:
            self._alone_db = level
        self._loud.append(level - self._alone_db)
        if self._at_lure is None and not any(one.apart_m < ALONE_M for one in fish):
            self._alone_db += ALONE_SHARE * (level - self._alone_db)
        return float(np.median(self._loud)) > SWELLS_DB

    def _tell(self, fish: list[FishSeen], touching: _Track | None, now: float) -> Moment | None:
        """The one thing that is worth telling now, if any is new."""
        gone = [one for one in self._tracks if now - one.last_s >= LOST_S and one is not touching]
        self._tracks = [one for one in self._tracks if one not in gone]
        said: list[Moment | None] = []
        if touching is not None:
            said.append(self._once(touching, "marks touching", now, "A fish is at your lure.", {}))
        by_number = {track.number: track for track in self._tracks}
        for one in fish[:2]:
            track = by_number[one.number]
            values = {"apart": Quantity(one.apart_m, "m"), "gap": Quantity(abs(one.gap_m), "m")}
            if one.closing_m_s is not None and one.apart_m < NEAR_M and touching is not track:
                if one.closing_m_s > CHARGES_M_S:
                    speed = {"speed": Quantity(one.closing_m_s, "m/s")}
                    said.append(self._once(track, "charging", now, "It comes at {speed} to your lure.", speed))
                elif one.closing_m_s > COMES_M_S and one.gap_m > 0.2:
                    said.append(
                        self._once(
                            track, "coming up", now, "A fish comes, {gap} below your lure, {apart} away.", values
                        )
                    )
                elif one.closing_m_s < -COMES_M_S and now - track.touched_s < 15.0:
                    said.append(self._once(track, "put off", now, "It turns away, {apart} from your lure.", values))
            if one.apart_m > NEAR_M or now - self._came_s < TOGETHER_S:
                continue  # fish that come together are told once
            below = "below" if one.gap_m >= 0.0 else "above"
            text = f"A fish {{apart}} from your lure, {{gap}} {below} it."
            came = self._once(track, "fish in the cone", now, text, values, every_s=1e9)
            self._came_s = self._came_s if came is None else now
            said.append(came)
        for track in gone:
            self._apart.pop(track.number, None)
            if "coming up" in track.told_s or "marks touching" in track.told_s:
                said.append(self._once(track, "gone", now, "The fish is gone.", {}))
        return next((one for one in said if one is not None), None)

    def _once(
        self,
        track: _Track,
        kind: MomentKind,
        now: float,
        text: str,
        values: dict[str, Quantity],
        every_s: float = AGAIN_S,
    ) -> Moment | None:
        if now - track.told_s.get(kind, -1e9) < every_s:
            return None
        track.told_s[kind] = now
        return Moment(kind, now, track.number, Sentence(text, values), DO[kind])


def _of_another(moment: Moment, fish: list[FishSeen]) -> bool:
    """Whether a moment is of a fish that another is nearer than by now: its numbers beside that one's would mislead."""
    return moment.kind in OF_THE_NEAREST and bool(fish) and fish[0].number != moment.track


def _closing(past: deque[tuple[float, float]], now: float) -> float | None:
    """How fast it comes nearer [m/s], by least squares over the last seconds; None before there is a second of it."""
    recent = np.array([one for one in past if now - one[0] <= OVER_S])
    if recent.shape[0] < 4 or np.ptp(recent[:, 0]) < 1.0:
        return None
    t = recent[:, 0] - recent[:, 0].mean()
    return float(-(t @ recent[:, 1]) / (t @ t))
