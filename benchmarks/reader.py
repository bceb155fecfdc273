"""The reader scored against simulated truth, over made-up waters that were not used for tuning it."""

from __future__ import annotations

import sys
from collections import Counter, deque
from collections.abc import Callable, Iterable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.frame import Frame
from hollow_glint.core.bench.tape import pings_of_frame
from hollow_glint.core.checks import Floats
from hollow_glint.core.reader.reader import Reader
from hollow_glint.core.reader.report import PictureReading
from hollow_glint.core.sonar import ping, receiver
from hollow_glint.core.tuning.touched_mark import HeardPing

from .reader_scenes import SCORED, Case, scenario

TRUE_KINDS = ("lure", "second lure", "fish", "bait", "still", "nothing")
READ_KINDS = ("lure", "second lure", "fish", "bait", "still")
STRONG_DB = 8.0  # over the first colour: a fish that lights it in nine pings of ten
STRONG_S = 3.0
SEEN_S = 1.0  # from which on anyone can tell a fish from a speck
TIMELY_S = 0.4
THEIRS_PER_S = 2.0  # pings a second with a neighbour's mark in them, from which anyone would see it


@dataclass
class Score:
    """What was right and wrong, in pings read or in cases."""

    seconds: float = 0.0
    lure_visible: int = 0
    lure_right: int = 0
    lure_other: int = 0
    confusion: Counter[tuple[str, str]] = field(default_factory=Counter)
    inside: int = 0
    spans: int = 0
    widths: list[float] = field(default_factory=list)
    moments: Counter[str] = field(default_factory=Counter)
    fish_told: int = 0
    fish_true: int = 0
    strong: int = 0
    strong_told: int = 0
    touching: int = 0
    touching_timely: int = 0
    touching_could: int = 0
    touching_told: int = 0
    touching_true: int = 0
    bottom_seen: int = 0
    bottom_right: int = 0
    hardness: Counter[tuple[str, str]] = field(default_factory=Counter)
    weed: Counter[tuple[bool, bool]] = field(default_factory=Counter)
    foreign: Counter[tuple[bool, bool]] = field(default_factory=Counter)
    worst: list[tuple[float, int]] = field(default_factory=list)

    def add(self, other: Score) -> None:
        """Take another's counts in."""
        for name, value in vars(other).items():
            if isinstance(value, Counter):
                getattr(self, name).update(value)
            else:
                setattr(self, name, getattr(self, name) + value)


@dataclass(frozen=True)
class Audible:
    """A target that can be seen in a ping.

    kind, who       what it is; which of them (kind, number, length [m])
    range_m         where it is, and where it was when rejection began to believe it [m from the face], least first
    depth_m         true depth [m]; level over the first colour [dB]
    """

    kind: str
    who: tuple[str, int, float]
    range_m: float
    between_m: tuple[float, float]
    depth_m: float
    over_db: float

    def off(self, range_m: float) -> float:
        """How far a mark at `range_m` is from where this one can be shown [m]."""
        low, high = self.between_m
        return max(low - range_m, range_m - high, 0.0)


def _kind(name: str, species: str, second: bool) -> str:
    if name == "lure":
        return "second lure" if second else "lure"
    if name in ("fish", "school"):
        return "bait" if species == "bait" else "fish"
    return "still"  # what hangs or lies: a dead stick, a camera, a log, bubbles on the line


def _ranges(heard: HeardPing) -> Floats:
    place = heard.place.astype(float) - np.array([0.0, 0.0, heard.transmission.face_depth_m])
    return np.asarray(np.sqrt((place * place).sum(axis=1)))


def audible(run: BenchRun, back: int = 1) -> list[Audible]:
    """The single targets that light the picture in the ping `back` pings ago (1 the newest), weakest left out."""
    heard = run.heard[-back]
    t = heard.transmission
    place = heard.place.astype(float)
    zero = receiver.first_colour_level(run.unit, run.settings)
    kept = int(run.unit.rejections[run.settings.rejection].pings)
    ranges = _ranges(heard)
    low, high = ranges, ranges
    for earlier in range(back + 1, min(back + kept, len(run.heard)) + 1):
        then = _ranges(run.heard[-earlier]) if earlier <= len(run.heard) else ranges
        if then.size == ranges.size:
            low, high = np.minimum(low, then), np.maximum(high, then)
    out: list[Audible] = []
    first_lure = True
    for k, ((x, y, z), strength, who) in enumerate(zip(place, heard.strength_db, heard.names, strict=True)):
        below = z - t.face_depth_m
        r = float(ranges[k])
        if below < 0.06 or r >= t.bin_range_m[-1] or not run.shown.top_m < r < run.shown.bottom_m:
            first_lure &= who.kind != "lure"
            continue
        level = ping.target_echo_level(t, float(strength), float(z), float(np.hypot(x, y)))
        over = level - zero - float(receiver.taken_off(run.unit, run.settings, np.array([r]))[0])
        at = int(r / t.bin_m)
        back_level = (t.diffuse + t.steady)[at : at + max(int(0.5 * t.resolution_m / t.bin_m), 1) + 1].max()
        second = who.kind == "lure" and run.lure.form in ("two jigs", "chain jig") and not first_lure
        first_lure &= who.kind != "lure"
        if over > -4.0 and 10.0 ** (level / 10.0) > back_level:
            kind = _kind(who.kind, who.species, second)
            whose = (who.kind, who.of, who.length_m)
            out.append(Audible(kind, whose, r, (float(low[k]), float(high[k])), float(z), float(over)))
    return out


def fish_of(targets: list[Audible]) -> list[Audible]:
    """Those that are fish, bait among them."""
    return [one for one in targets if one.kind in ("fish", "bait")]


class _Onlooker:
    """Whoever sees where each echo truly is, once it has lit the picture for SEEN_S, but not what a fish wants: no
    reader of the picture could tell better when marks touch."""

    def __init__(self, resolution_m: float) -> None:
        self._resolution_m = resolution_m
        self._seen_since: dict[tuple[str, int, float], float] = {}
        self._touching = False

    def touch_begins(self, time_s: float, targets: list[Audible]) -> bool:
        """Whether fish and lure begin to touch now: as the bench counts it, a pulse apart, two to part again."""
        lit = [one for one in targets if one.over_db > 0.0]
        lure = next((one.range_m for one in lit if one.kind == "lure"), None)
        fish = [one for one in lit if one.kind == "fish"]
        self._seen_since = {one.who: self._seen_since.get(one.who, time_s) for one in fish}
        near = self._resolution_m * (2.0 if self._touching else 1.0)
        was, self._touching = (
            self._touching,
            lure is not None
            and any(abs(one.range_m - lure) < near and time_s - self._seen_since[one.who] >= SEEN_S for one in fish),
        )
        return self._touching and not was


class _OneCase:
    """One case read from start to end, and what the reader told held against what was there."""

    def __init__(self, case: Case, from_s: float = 0.0) -> None:
        self.case = case
        self.from_s = from_s
        self.run = case.run()
        self.reader = Reader(case.view)
        self.score = Score()
        self._told_tracks: set[int] = set()
        self._told_who: set[tuple[str, int, float]] = set()  # told once, and its track may have been lost since
        self._strong: dict[tuple[str, int, float], list[float]] = {}  # since when, last seen, told
        self._fishy: deque[tuple[float, list[Audible]]] = deque(maxlen=40)

    @property
    def near_m(self) -> float:
        """How near a mark must be to what made it [m]."""
        row = self.run.shown.height_m / self.run.unit.rows
        return max(0.1, 1.2 * self.run.transmission.resolution_m, 2.5 * row)

    def read(self) -> Score:
        run, score, case = self.run, self.score, self.case
        twin = case.run(neighbours=False) if case.scene.neighbours else None
        theirs = 0
        last = 0.0
        told: list[float] = []
        true: list[float] = []
        could: list[float] = []
        onlooker = _Onlooker(run.transmission.resolution_m)
        for commands in case.hand:
            frame = run.advance(commands)
            if twin is not None:
                theirs += lit_by_others(frame, twin.advance(commands))
            pings = frame.levels.shape[0]
            if frame.time_s < self.from_s:
                last = frame.time_s
                continue
            for k, seen in enumerate(pings_of_frame(frame, last)):
                reading = self.reader.see(seen)
                if not reading.complete and not reading.moments:
                    continue
                targets = audible(run, pings - k)
                self._fishy.append((seen.time_s, fish_of(targets)))
                told += self._moments(reading, targets)
                if reading.complete and seen.time_s > self.from_s + 1.0:
                    self._ping(reading, targets)
                    self._strong_fish(seen.time_s, reading, targets)
            last = frame.time_s
            targets = audible(run)
            if onlooker.touch_begins(frame.time_s, targets):
                could.append(frame.time_s)
            shown = {one.kind for one in targets}
            if {"lure", "fish"} <= shown and any(event.kind == "marks touching" for event in frame.events):
                true.append(frame.time_s)
        score.seconds = last
        score.touching = len(true)
        score.touching_timely = sum(any(abs(a - b) <= TIMELY_S for a in told) for b in true)
        score.touching_could = sum(any(abs(a - b) <= TIMELY_S for a in could) for b in true)
        score.touching_told = len(told)
        self._what_stands(theirs / max(last, 1.0))
        if score.lure_visible:
            score.worst = [(1.0 - score.lure_right / score.lure_visible, case.luck - 2_000_000)]
        return score

    def _moments(self, reading: PictureReading, targets: list[Audible]) -> list[float]:
        """Count what is told; when marks were told to touch."""
        score, touching = self.score, []
        for moment in reading.moments:
            score.moments[moment.kind] += 1
            if moment.kind == "marks touching":
                touching.append(moment.time_s)
                reach = 2.0 * self.run.transmission.resolution_m
                lures = [one.range_m for one in targets if one.kind == "lure"]
                fish = fish_of(targets)
                score.touching_true += any(one.off(at) < reach for one in fish for at in lures)
            if moment.kind == "fish in the cone":
                score.fish_told += 1
                self._told_tracks.add(moment.track)
                at = next((mark.range_m for mark in reading.marks if mark.track == moment.track), None)
                if at is not None:
                    self._told_who |= {one.who for one in fish_of(targets) if one.off(at) < self.near_m}
                score.fish_true += at is not None and any(
                    one.off(at) < self.near_m
                    for when, fish in self._fishy
                    for one in fish
                    if when > moment.time_s - 1.0
                )
        return touching

    def _strong_fish(self, time_s: float, reading: PictureReading, targets: list[Audible]) -> None:
        """A fish that has shown itself strongly, alone and for STRONG_S: was it told by then?"""
        alive = set()
        resolution = self.run.transmission.resolution_m
        standing = self.reader.standing
        end = min(standing.bottom_m or np.inf, self.case.scene.bottom_range_m) - 0.2 - resolution
        for one in targets:
            if one.kind != "fish" or one.over_db < STRONG_DB or not standing.clutter_end_m < one.range_m < end:
                continue
            if any(b is not one and -1.5 * resolution < b.range_m - one.range_m < 1.5 * resolution for b in targets):
                continue
            alive.add(one.who)
            since = self._strong.setdefault(one.who, [time_s, 0.0, 0.0])
            since[1] = time_s
            if not since[2]:
                since[2] = float(any(
                    one.off(mark.range_m) < self.near_m
                    for mark in reading.marks
                    if mark.kind in ("fish", "bait") and (mark.track in self._told_tracks or one.who in self._told_who)
                ))  # fmt: skip
        for who, since in list(self._strong.items()):
            if since[0] >= 0.0 and who not in alive and time_s - since[1] > 0.5:
                del self._strong[who]
            elif since[0] >= 0.0 and time_s - since[0] >= STRONG_S:
                self.score.strong += 1
                self.score.strong_told += int(since[2])
                since[0] = -1.0  # counted once

    def _ping(self, reading: PictureReading, targets: list[Audible]) -> None:
        score = self.score
        resolution = self.run.transmission.resolution_m
        points = [one for one in targets if one.kind == "lure" and one.over_db > 1.65]
        lure = max(points, key=lambda one: one.over_db, default=None)
        # Its own mark: nothing else within a pulse; and under rejection none too fast for it to be shown at all.
        if lure is not None and lure.between_m[1] - lure.between_m[0] < resolution:
            crowd = any(
                one.kind not in ("lure", "second lure")
                and -1.5 * resolution < one.range_m - lure.range_m < 1.2 * resolution
                for one in targets
            )
            if not crowd:
                score.lure_visible += 1
                named = next((mark for mark in reading.marks if mark.kind == "lure"), None)
                if named is not None and lure.off(named.range_m) < self.near_m:
                    score.lure_right += 1
                elif named is not None:
                    score.lure_other += 1
        for mark in reading.marks:
            if mark.hidden:
                continue
            close = [one for one in targets if one.off(mark.range_m) < self.near_m]
            if not close:
                score.confusion["nothing", mark.kind] += 1
                continue
            right = next((one for one in close if one.kind == mark.kind), None)
            source = right or min(close, key=lambda one: one.off(mark.range_m) - 0.01 * one.over_db)
            score.confusion[source.kind, mark.kind] += 1
            if source.kind == "fish" and mark.fish is not None:
                low, high = mark.fish.span.depth_m
                score.spans += 1
                score.inside += low <= source.depth_m <= high
                score.widths.append(high - low)

    def _what_stands(self, theirs_per_s: float) -> None:
        """The bottom, what stands on it, and a neighbour whose marks light THEIRS_PER_S pings a second."""
        run, score, scene = self.run, self.score, self.case.scene
        standing = self.reader.standing
        inside = run.shown.bottom_m > scene.bottom_range_m
        bottom = standing.bottom_m
        score.bottom_seen = int(inside)
        score.bottom_right = int(inside and bottom is not None and abs(bottom - scene.bottom_range_m) < 0.12)
        if inside and bottom is not None:
            final = self.reader.bottom
            kind = "hard" if scene.bottom_kind in ("sand", "gravel", "rock") else "soft"
            score.hardness[kind, final.hardness if final else "none"] += 1
            score.weed[scene.weed_height_m > 0.0, standing.weed_top_m is not None] += 1
        shows = theirs_per_s > THEIRS_PER_S
        if shows or not scene.neighbours:  # one that is there and shows too little is neither
            score.foreign[shows, standing.company] += 1


def lit_by_others(frame: Frame, without: Frame) -> int:
    """In how many pings of a frame something is lit that would be dark but for the neighbours."""
    if frame.levels.shape != without.levels.shape:
        return 0
    return int((((frame.levels > 0) & (without.levels == 0)).sum(axis=1) > 2).sum())


def score_one(case: Case, from_s: float = 0.0) -> Score:
    """One case read from `from_s` [s] to its end."""
    return _OneCase(case, from_s).read()


def _score_seed(job: tuple[Callable[[int], Case], int]) -> Score:
    make, seed = job
    return score_one(make(seed))


def score_all(seeds: Iterable[int], make: Callable[[int], Case] = scenario, workers: int = 2) -> Score:
    """The cases that `make` makes of every seed, over `workers` processes."""
    total = Score()
    with ProcessPoolExecutor(workers) as pool:
        for one in pool.map(_score_seed, [(make, seed) for seed in seeds], chunksize=4):
            total.add(one)
    total.worst.sort(reverse=True)
    return total


def share(part: float, whole: float) -> str:
    """A percentage, or a dash of nothing."""
    return f"{100.0 * part / whole:.1f} %" if whole else "none"


def fish_right(score: Score) -> tuple[int, int]:
    """Fish and bait told from what is neither: right, and all."""
    fishy = ("fish", "bait")
    right = sum(n for (true, read), n in score.confusion.items() if (true in fishy) == (read in fishy))
    return right, sum(score.confusion.values())


def lines(score: Score) -> list[str]:
    """The figures, a line each."""
    right, marks = fish_right(score)
    return [
        "lure named rightly, of the pings in which it shows as a mark of its own: "
        f"{share(score.lure_right, score.lure_visible)}",
        f"something else named lure meanwhile: {share(score.lure_other, score.lure_visible)}",
        f"fish told from not-fish, of marks named: {share(right, marks)}",
        f'"a fish at" told {score.fish_told} times in {score.seconds / 60.0:.0f} minutes, '
        f"{share(score.fish_true, score.fish_told)} with a fish there, "
        f"{(score.fish_told - score.fish_true) / max(score.seconds / 60.0, 1e-9):.2f} false a minute",
        f"strong fish told within {STRONG_S:g} s: {share(score.strong_told, score.strong)} of {score.strong}",
        f"moments a minute: {score.moments.total() / max(score.seconds / 60.0, 1e-9):.1f}",
        f"true depth inside the stated span: {share(score.inside, score.spans)}, "
        f"median span {np.median(score.widths) if score.widths else 0.0:.2f} m",
        f"marks touching told within {TIMELY_S:g} s: {share(score.touching_timely, score.touching)} "
        f"of {score.touching} (whoever knew every range: {share(score.touching_could, score.touching)}); "
        f"told {score.touching_told} times in all, {share(score.touching_true, score.touching_told)} with a fish there",
        f"bottom found within 0.12 m: {share(score.bottom_right, score.bottom_seen)}",
    ]


def standing_lines(score: Score) -> list[str]:
    """The figures of what stands: how hard the bottom is, weeds, neighbours."""
    hard = score.hardness
    clear = sum(n for (_, told), n in hard.items() if told in ("hard", "soft"))
    right = hard["hard", "hard"] + hard["soft", "soft"]
    weeds = score.weed[True, True] + score.weed[True, False]
    theirs = score.foreign[True, True] + score.foreign[True, False]
    return [
        f"hard or soft, where the reader says either: {share(right, clear)} right; it says so in "
        f"{share(clear, sum(hard.values()))} of scenes",
        f"weeds told where there are weeds: {share(score.weed[True, True], weeds)}; told where there are none: "
        f"{share(score.weed[False, True], score.weed[False, True] + score.weed[False, False])}",
        f"neighbours' marks told where they show: {share(score.foreign[True, True], theirs)} of {theirs}; where there "
        f"are none: {share(score.foreign[False, True], score.foreign[False, True] + score.foreign[False, False])}",
    ]


DOCS = Path(__file__).parents[1] / "docs"
BEGIN, END = "<!-- figures: written by make bench -->", "<!-- end of figures -->"


def table(score: Score) -> list[str]:
    """The confusion table as Markdown: pings read, true class down, named class across."""
    out = ["| truly | " + " | ".join(READ_KINDS) + " |", "|---|" + "---:|" * len(READ_KINDS)]
    for true in TRUE_KINDS:
        out.append(f"| {true} | " + " | ".join(str(score.confusion[true, read]) for read in READ_KINDS) + " |")
    return out


def draw(score: Score, path: Path) -> None:
    """The confusion table as a picture: share of each true class, and counts."""
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib import pyplot

    counts = np.array([[score.confusion[true, read] for read in READ_KINDS] for true in TRUE_KINDS], dtype=float)
    shares = counts / np.maximum(counts.sum(axis=1, keepdims=True), 1.0)
    figure, axes = pyplot.subplots(figsize=(7.2, 4.6), dpi=110)
    axes.imshow(shares, cmap="Greys", vmin=0.0, vmax=1.0, aspect="auto")
    axes.set_xticks(range(len(READ_KINDS)), READ_KINDS)
    axes.set_yticks(range(len(TRUE_KINDS)), TRUE_KINDS)
    axes.set_xlabel("named by the reader")
    axes.set_ylabel("truly")
    for row in range(len(TRUE_KINDS)):
        for column in range(len(READ_KINDS)):
            ink = "white" if shares[row, column] > 0.5 else "black"
            text = f"{100.0 * shares[row, column]:.0f} %\n{int(counts[row, column])}"
            axes.text(column, row, text, ha="center", va="center", color=ink, fontsize=9)
    axes.set_title("What the reader names marks, by what made them")
    figure.tight_layout()
    figure.savefig(path)
    pyplot.close(figure)


def write_docs(score: Score, scenes: int) -> None:
    """Put the figures into docs/reader.md and the confusion table beside it."""
    page = DOCS / "reader.md"
    text = page.read_text(encoding="utf-8")
    head, rest = text.split(BEGIN)
    _, tail = rest.split(END)
    figures = [f"- {line}" for line in [*lines(score), *standing_lines(score)]]
    head_line = f"Over {scenes} scenes, seeds 0 to {scenes - 1}, 36 s each."
    picture = "![What the reader names marks, by what made them](reader-confusion.png)"
    body = [BEGIN, head_line, "", *figures, "", *table(score), "", picture, END]
    page.write_text(head + "\n".join(body) + tail, encoding="utf-8")
    draw(score, DOCS / "reader-confusion.png")


def main() -> None:
    """Score the scenes kept for it and write docs/reader.md, or a few others and write nothing."""
    if sys.argv[1:]:
        first, count = (int(one) for one in sys.argv[1:3])
        total = score_all(range(first, first + count))
    else:
        total = score_all(SCORED)
        write_docs(total, len(SCORED))
    print("\n".join([*lines(total), *table(total)]))
    print(dict(total.hardness), dict(total.weed), dict(total.foreign), total.worst[:12])


if __name__ == "__main__":
    main()
