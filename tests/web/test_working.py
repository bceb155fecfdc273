"""How far a long answer has come can be asked while it is worked out."""

from __future__ import annotations

import threading

from hollow_glint.web.strike import runs
from hollow_glint.web.working import MOST, Works

LAB = {"patterns": [{"key": "hang still", "moves": [{"seconds": 10.0}]}], "mood": "choosy", "species": "whitefish",
       "seed": 1, "fish": 100}  # fmt: skip


def test_the_lab_tells_how_far_it_is_and_is_forgotten_when_it_is_done(client, app, monkeypatch):
    told: list[float] = []
    tell = app.config["works"].tell
    monkeypatch.setattr(app.config["works"], "tell", lambda word, share: (told.append(share), tell(word, share)))
    assert client.get("/api/work/mine").json == {"share": None}
    assert client.post("/api/cadence", json=LAB, headers={"Work": "mine"}).status_code == 200
    assert len(told) > 5 and told == sorted(told) and 0.0 < told[0] < 0.3 and told[-1] == 1.0
    assert client.get("/api/work/mine").json == {"share": None}
    # Who names no work is not counted.
    told.clear()
    client.post("/api/cadence", json=LAB)
    assert told == []


def test_a_debrief_tells_how_far_it_is(client, app, monkeypatch):
    run = client.get("/api/runs").json["runs"]
    if not run:
        made = client.post("/api/runs/start", json={"level": "willing", "start": "card", "line": "braid"}).json
        bench = app.config["live_benches"].get(made["id"])
        for _ in range(200):
            bench.step()
        run = [client.post(f"/api/benches/{made['id']}/end-run", json={}).json]
    runs._lately.forget((app.config["database"], run[0]["id"]))  # a run that was just played is known already
    told: list[tuple[str, float]] = []
    monkeypatch.setattr(app.config["works"], "tell", lambda word, share: told.append((word, share)))
    assert client.get(f"/api/runs/{run[0]['id']}", headers={"Work": "debrief"}).status_code == 200
    assert {word for word, _ in told} == {"debrief"}
    shares = [share for _, share in told]
    assert len(shares) > 5 and shares == sorted(shares) and 0.0 < shares[0] < shares[-1] <= 1.0


def test_works_are_kept_apart_clipped_and_few():
    works = Works()
    works.tell("a", 0.4)
    works.tell("b", 7.0)
    assert (works.share("a"), works.share("b"), works.share("c")) == (0.4, 1.0, None)
    works.done("a")
    works.done("a")
    assert works.share("a") is None
    threads = [threading.Thread(target=works.tell, args=(str(k), 0.5)) for k in range(3 * MOST)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sum(works.share(str(k)) is not None for k in range(3 * MOST)) == MOST
