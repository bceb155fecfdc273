"""Learn what marks look like from made-up scenes, and write `core/reader/mark_table.py`. Run by hand,
with `requirements/learn.txt` installed.

    python -m tools.learn_reader gather FIRST COUNT FILE     watch scenes, and keep what their marks measured
    python -m tools.learn_reader learn FILE ...              weigh them and write the table

The scenes are `reader_scenes.scenario` and `other_scenes.practised` from seed TUNING_FROM up. None is ever scored.
"""

from __future__ import annotations

import sys
from collections import deque
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

from benchmarks.other_scenes import practised
from benchmarks.reader import audible, lit_by_others
from benchmarks.reader_scenes import scenario
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.bench.tape import pings_of_frame
from hollow_glint.core.reader.features import FEATURES, features
from hollow_glint.core.reader.mark_evidence import MarkEvidence, stands_out
from hollow_glint.core.reader.reader import Reader
from hollow_glint.core.reader.strangers import MEASURES

CLASSES = ("lure", "second lure", "fish", "still", "nothing")
EVERY_S = 0.4
BINS = 8
STRENGTH = 0.3  # of the data against the wish for small weights
TRACK_ROWS = 30  # how many looks at one mark count in full
TABLE = Path(__file__).parents[1] / "src/hollow_glint/core/reader/mark_table.py"
HEAD = '''"""What each measure of a mark weighs for each thing that it could be: log odds, to be added up.

Learned from made-up scenes that are never scored (`tools/learn_reader.py`, seeds from 10000 up); read by `weighing`.
"""
'''


def watch(seed: int) -> tuple[np.ndarray, ...]:
    """Features, classes and (seed, time, whether the lure was known) of the marks in a scene."""
    case = practised(seed) if seed % 3 else scenario(seed)
    run, reader = case.run(), Reader(case.view)
    twin = case.run(neighbours=False) if case.scene.neighbours else None
    theirs: deque[int] = deque(maxlen=80)
    rows, kinds, where, company = [], [], [], []
    last, due = 0.0, 1.0
    for commands in case.hand:
        frame = run.advance(commands)
        if twin is not None:
            theirs.append(lit_by_others(frame, twin.advance(commands)))
        if frame.number % 40 == 0 and frame.number > 100 and reader.strangers is not None:
            company.append((*reader.company_measures(), sum(theirs) / (STEP_S * max(len(theirs), 1))))
        pings = frame.levels.shape[0]
        for k, seen in enumerate(pings_of_frame(frame, last)):
            reading = reader.see(seen)
            if not reading.complete or seen.time_s < due or reader.tracker is None:
                continue
            due = seen.time_s + EVERY_S
            evidence = MarkEvidence(reader.view, reader.tracker.row_m)
            near = max(0.1, 1.2 * run.transmission.resolution_m, 2.5 * reader.tracker.row_m)
            targets = audible(run, pings - k)
            named = []
            for one in reader.tracker.tracks:
                if one.hidden_in is not None or one.hits < 6 or not stands_out(one):
                    continue
                close = sorted(
                    (t for t in targets if t.off(one.range_m) < near),
                    key=lambda t: t.off(one.range_m) - 0.01 * t.over_db,
                )
                kind = "nothing" if not close else close[0].kind.replace("bait", "fish")
                if len({t.kind.replace("bait", "fish") for t in close if t.over_db > close[0].over_db - 6.0}) > 1:
                    continue  # of two things at once
                named.append((one, kind))
            lures = [one for one, kind in named if kind == "lure"]
            lure = max(lures, key=lambda one: one.hits, default=None)
            for known in (None, lure):
                for one, kind in named:
                    if known is not None and kind == "lure":
                        continue
                    if known is None and lures == [] and kind == "lure":
                        continue
                    rows.append(features(one, evidence, reading.standing, seen.time_s, known))
                    kinds.append(CLASSES.index(kind))
                    where.append((seed, seen.time_s, known is not None, one.id))
                if lure is None:
                    break
        last = frame.time_s
    return (
        np.array(rows, dtype=np.float32).reshape(-1, len(FEATURES)),
        np.array(kinds, dtype=np.int8),
        np.array(where).reshape(-1, 4),
        np.array(company).reshape(-1, len(MEASURES) + 1),
    )


def gather(first: int, count: int, path: str) -> None:
    """Watch `count` scenes and keep what their marks measured."""
    with ProcessPoolExecutor(2) as pool:
        got = list(pool.map(watch, range(first, first + count), chunksize=4))
    x, y, where, company = (np.concatenate([one[k] for one in got]) for k in range(4))
    np.savez_compressed(path, x=x, y=y, where=where, company=company)
    print(x.shape, np.bincount(y))


def edges_of(x: np.ndarray) -> list[float]:
    """Where the bins of a feature part: at its quantiles, in two figures that can be read."""
    known = x[np.isfinite(x)]
    cut = np.unique([float(f"{one:.2g}") for one in np.quantile(known, np.linspace(0.0, 1.0, BINS + 1)[1:-1])])
    return [float(one) for one in cut]


def binned(x: np.ndarray, edges: list[list[float]]) -> np.ndarray:
    """Which bin each number falls in, the last of each feature for what is not known."""
    out = np.empty(x.shape, dtype=np.intp)
    for k, cut in enumerate(edges):
        out[:, k] = np.where(np.isfinite(x[:, k]), np.searchsorted(cut, x[:, k], side="right"), len(cut) + 1)
    return out


def learn(paths: list[str]) -> None:
    """Weigh every bin of every feature for every class: multinomial logistic regression on the bins."""
    from scipy import sparse
    from sklearn.linear_model import LogisticRegression

    files = [np.load(path) for path in paths]
    x, y, where = (np.concatenate([one[key] for one in files]) for key in ("x", "y", "where"))
    edges = [edges_of(x[:, k]) for k in range(x.shape[1])]
    starts = np.concatenate([[0], np.cumsum([len(cut) + 2 for cut in edges])])
    bins = binned(x, edges) + starts[:-1]
    rows = np.repeat(np.arange(len(x)), x.shape[1])
    hot = sparse.csr_matrix((np.ones(bins.size), (rows, bins.ravel())), shape=(len(x), int(starts[-1])))
    # A mark that stands there all the time says no more of its kind than one that is there half of it.
    track = where[:, 0] * 1e6 + where[:, 3] * 2 + where[:, 2]
    _, back, count = np.unique(track, return_inverse=True, return_counts=True)
    weight = np.minimum(1.0, TRACK_ROWS / count[back])
    kept = where[:, 0] % 5 != 4
    for train, test in ((kept, ~kept), (np.ones(len(x), dtype=bool), None)):
        model = LogisticRegression(C=STRENGTH, max_iter=400)
        model.fit(hot[train], y[train], sample_weight=weight[train])
        if test is not None:
            held_out(model.predict_proba(hot[test]), y[test], where[test])
    write(edges, starts, model.coef_, model.intercept_)


def held_out(chance: np.ndarray, y: np.ndarray, where: np.ndarray) -> None:
    """Print how well scenes that were left out are told apart."""
    for known in (0, 1):
        of = where[:, 2] == known
        told = chance[of].argmax(axis=1)
        print("lure known" if known else "lure unknown")
        for k, name in enumerate(CLASSES):
            print(f"  {name:12}", [int(((y[of] == k) & (told == j)).sum()) for j in range(len(CLASSES))])


def write(edges: list[list[float]], starts: np.ndarray, weights: np.ndarray, prior: np.ndarray) -> None:
    """The table as a module that can be read."""
    lines = [HEAD, f"CLASSES = {CLASSES}", f"PRIOR = {tuple(round(float(one), 2) for one in prior)}", "",
             "# feature: where its bins part; then for each class what each bin and, last, not knowing weighs",
             "TABLE: dict[str, tuple[tuple[float, ...], tuple[tuple[float, ...], ...]]] = {"]  # fmt: skip
    for k, name in enumerate(FEATURES):
        lines.append(f'    "{name}": (')
        lines.append(f"        {tuple(edges[k])},")
        lines.append("        (")
        for of in range(len(CLASSES)):
            row = tuple(round(float(one), 2) + 0.0 for one in weights[of, starts[k] : starts[k + 1]])
            lines.append(f"            {row},  # {CLASSES[of]}")
        lines += ["        ),", "    ),"]
    lines.append("}  # fmt: skip")
    TABLE.write_text("\n".join(lines) + "\n", encoding="utf-8")


if __name__ == "__main__":
    if sys.argv[1] == "gather":
        gather(int(sys.argv[2]), int(sys.argv[3]), sys.argv[4])
    else:
        learn(sys.argv[2:])
