"""The reader scored against simulated truth, over made-up waters that were not used for tuning it."""

from __future__ import annotations

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.tape import pings_of_frame
from hollow_glint.core.reader.reader import Reader
from hollow_glint.core.reader.report import PictureReading
from hollow_glint.core.sonar import ping, receiver
from hollow_glint.core.tuning.touched_mark import HeardPing

from .reader_scenes import SCORED, scenario

TRUE_KINDS = ("lure", "second lure", "fish", "bait", "still", "nothing")
READ_KINDS = ("lure", "second lure", "fish", "bait", "still")


@dataclass
class Score:
    """What was right and wrong, in pings read or in cases."""

    lure_visible: int = 0
    lure_right: int = 0
    lure_other: int = 0
    confusion: Counter[tuple[str, str]] = field(default_factory=Counter)
    inside: int = 0
    spans: int = 0
    widths: list[float] = field(default_factory=list)
    touching: int = 0
    touching_timely: int = 0
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
    """A target that can be seen in a ping: kind, range [m from the face], true depth [m], level over dark [dB]."""

    kind: str
    range_m: float
    depth_m: float
    over_db: float
    own_mark: bool = True


def _kind(name: str, species: str, second: bool) -> str:
    if name == "lure":
        return "second lure" if second else "lure"
    if name in ("fish", "school"):
        return "bait" if species == "bait" else "fish"
    return "still"  # what hangs or lies: a dead stick, a camera, a log, bubbles on the line


def audible(run: BenchRun, heard: HeardPing) -> list[Audible]:
    """The single targets that light the picture in a ping, weakest left out."""
    t = heard.transmission
    place = heard.place.astype(float)
    zero = receiver.first_colour_level(run.unit, run.settings)
    out: list[Audible] = []
    first_lure = True
    for (x, y, z), strength, who in zip(place, heard.strength_db, heard.names, strict=True):
        below = z - t.face_depth_m
        r = float(np.sqrt(x * x + y * y + below * below))
        if below < 0.06 or r >= t.bin_range_m[-1] or not run.shown.top_m < r < run.shown.bottom_m:
            first_lure &= who.kind != "lure"
            continue
        level = ping.target_echo_level(t, float(strength), float(z), float(np.hypot(x, y)))
        over = level - zero - float(receiver.taken_off(run.unit, run.settings, np.array([r]))[0])
        at = int(r / t.bin_m)
        back = (t.diffuse + t.steady)[at : at + max(int(0.5 * t.resolution_m / t.bin_m), 1) + 1].max()
        second = who.kind == "lure" and run.lure.form in ("two jigs", "chain jig") and not first_lure
        first_lure &= who.kind != "lure"
        if over > -4.0 and 10.0 ** (level / 10.0) > back:
            out.append(Audible(_kind(who.kind, who.species, second), r, float(z), float(over)))
    return out


def _score_ping(run: BenchRun, reading: PictureReading, heard: HeardPing, score: Score) -> None:
    targets = audible(run, heard)
    resolution = heard.transmission.resolution_m
    row = run.shown.height_m / run.unit.rows
    near = max(0.1, 1.2 * resolution, 2.5 * row)
    points = [one for one in targets if one.kind == "lure" and one.over_db > 1.65]
    lure = max(points, key=lambda one: one.over_db, default=None)
    if lure is not None:
        # Its own mark: nothing else within a pulse, and what stands before it does not drown it.
        crowd = any(
            one.kind not in ("lure", "second lure")
            and -1.5 * resolution < one.range_m - lure.range_m < 1.2 * resolution
            for one in targets
        )
        if not crowd:
            score.lure_visible += 1
            named = next((mark for mark in reading.marks if mark.kind == "lure"), None)
            if named is not None and abs(named.range_m - lure.range_m) < near:
                score.lure_right += 1
            elif named is not None:
                score.lure_other += 1
    for mark in reading.marks:
        if mark.hidden:
            continue
        close = [one for one in targets if abs(one.range_m - mark.range_m) < near]
        if not close:
            score.confusion["nothing", mark.kind] += 1
            continue
        right = next((one for one in close if one.kind == mark.kind), None)
        source = right or min(close, key=lambda one: abs(one.range_m - mark.range_m) - 0.01 * one.over_db)
        score.confusion[source.kind, mark.kind] += 1
        if source.kind == "fish" and mark.fish is not None:
            low, high = mark.fish.span.depth_m
            score.spans += 1
            score.inside += low <= source.depth_m <= high
            score.widths.append(high - low)


def _near_the_lure(run: BenchRun, heard: HeardPing) -> bool:
    """Whether any fish's echo comes from within two pulse lengths of the lure's."""
    targets = audible(run, heard)
    reach = 2.0 * heard.transmission.resolution_m
    lures = [one.range_m for one in targets if one.kind == "lure"]
    return any(abs(one.range_m - at) < reach for one in targets if one.kind in ("fish", "bait") for at in lures)


def score_one(seed: int) -> Score:
    """One scene read from start to end."""
    run, view, hand = scenario(seed)
    reader = Reader(view)
    score = Score()
    last = 0.0
    told: list[float] = []
    true: list[float] = []
    for commands in hand:
        frame = run.advance(commands)
        pings = frame.levels.shape[0]
        for k, seen in enumerate(pings_of_frame(frame, last)):
            reading = reader.see(seen)
            for moment in reading.moments:
                if moment.kind == "marks touching":
                    told.append(moment.time_s)
                    score.touching_true += _near_the_lure(run, run.heard[k - pings])
            if reading.complete and seen.time_s > 1.0:
                _score_ping(run, reading, run.heard[k - pings], score)
        last = frame.time_s
        if any(event.kind == "marks touching" for event in frame.events):
            targets = audible(run, run.heard[-1])
            if any(one.kind == "lure" for one in targets) and any(one.kind == "fish" for one in targets):
                true.append(frame.time_s)
    score.touching = len(true)
    score.touching_timely = sum(any(abs(a - b) <= 0.4 for a in told) for b in true)
    score.touching_told = len(told)
    scene = run.scene
    standing = reader.standing
    inside = run.shown.bottom_m > scene.bottom_range_m
    score.bottom_seen = int(inside)
    bottom = standing.bottom_m
    score.bottom_right = int(inside and bottom is not None and abs(bottom - scene.bottom_range_m) < 0.12)
    if inside and bottom is not None:
        final = reader.bottom
        kind = "hard" if scene.bottom_kind in ("sand", "gravel", "rock") else "soft"
        score.hardness[kind, final.hardness if final else "none"] += 1
        score.weed[scene.weed_height_m > 0.0, standing.weed_top_m is not None] += 1
    score.foreign[bool(scene.neighbours), standing.foreign_per_s > 1.5] += 1
    if score.lure_visible:
        score.worst = [(1.0 - score.lure_right / score.lure_visible, seed)]
    return score


def score_all(seeds: range, workers: int = 2) -> Score:
    """Every seed, over `workers` processes."""
    total = Score()
    with ProcessPoolExecutor(workers) as pool:
        for one in pool.map(score_one, seeds, chunksize=4):
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
        f"true depth inside the stated span: {share(score.inside, score.spans)}, "
        f"median span {np.median(score.widths) if score.widths else 0.0:.2f} m",
        f"marks touching told within 0.4 s: {share(score.touching_timely, score.touching)} of {score.touching}; "
        f"told {score.touching_told} times in all, {share(score.touching_true, score.touching_told)} with a fish there",
        f"bottom found within 0.12 m: {share(score.bottom_right, score.bottom_seen)}",
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
    hard = score.hardness
    clear = sum(n for (_, told), n in hard.items() if told in ("hard", "soft"))
    right = hard["hard", "hard"] + hard["soft", "soft"]
    weeds = score.weed[True, True] + score.weed[True, False]
    theirs = score.foreign[True, True] + score.foreign[True, False]
    figures = [f"- {line}" for line in lines(score)]
    figures += [
        f"- hard or soft, where the reader says either: {share(right, clear)} right; it says so in "
        f"{share(clear, sum(hard.values()))} of scenes",
        f"- weeds told where there are weeds: {share(score.weed[True, True], weeds)}; told where there are none: "
        f"{share(score.weed[False, True], score.weed[False, True] + score.weed[False, False])}",
        f"- neighbours' marks told where there are any: {share(score.foreign[True, True], theirs)}; where there are "
        f"none: {share(score.foreign[False, True], score.foreign[False, True] + score.foreign[False, False])}",
    ]
    body = [BEGIN, f"Over {scenes} scenes, seeds 0 to {scenes - 1}, 36 s each.", "", *figures, "", *table(score), END]
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
