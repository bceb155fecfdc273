"""A form of lure added in its one place appears in Gear, on the Bench, in card and in files: proved by adding one."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import hollow_glint

SOURCE = Path(hollow_glint.__file__).parent
SCRIPT = Path(__file__).parents[2] / "frontend/scripts/limits.mjs"

FORM = '''
"""A ring: for the test, a ball at its rim."""

from ..form import Form, Highlights, Sizes, points, sphere_strength


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    return points((0.0, sphere_strength(lure.diameter_m, f, c, lure.material)))


FORM = Form("ring", "Ring with a gap", 9, answers)
'''

USES = """
import json, sys
from pathlib import Path
from hollow_glint import demo
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app

folder = Path(sys.argv[1])
store = Database(folder / "store.sqlite3")
demo.seed(store)
app = create_app(store)
client = app.test_client()
found = {"document": client.get("/api/openapi.json").json}
made = client.post("/api/lures", json={"name": "A ring", "form": "ring", "diameter_m": 0.008})
found["added"] = made.status_code
lure = made.json["id"]
text = client.get(f"/api/lures/{lure}/file").text
found["taken in"] = client.post("/api/gear/file", data=text, content_type="application/json").json["lures"][0]["form"]
card = client.post("/api/hole-card", json={"unit_id": 1, "lure_id": lure, "depth_m": 6.0})
found["card"] = [card.status_code, card.json["lure"]["form"]]
bench = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": lure, "seed": 1})
found["bench"] = [bench.status_code, bench.json["lure"]["form"]]
live = app.config["live_benches"].get(bench.json["id"])
frame, _ = live.step()
found["rows"] = len(frame.levels[0])
print(json.dumps(found))
"""


def test_a_new_form_of_lure_is_one_file(tmp_path):
    copy = tmp_path / "src/hollow_glint"
    shutil.copytree(SOURCE, copy, ignore=shutil.ignore_patterns("static", "__pycache__"))
    (copy / "core/gear/forms/ring.py").write_text(FORM)
    done = subprocess.run(
        [sys.executable, "-c", USES, str(tmp_path)],
        env={**os.environ, "PYTHONPATH": str(tmp_path / "src")},
        capture_output=True, text=True, timeout=60, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    found = json.loads(done.stdout)
    assert found["added"] == 201
    assert found["taken in"] == "ring"
    assert found["card"] == [200, "ring"]
    assert found["bench"] == [201, "ring"]
    assert found["rows"] > 16
    fields = found["document"]["components"]["schemas"]["LureFields"]
    assert "ring" in fields["properties"]["form"]["enum"]
    # What the page's form is made of: its choices, words and spans.
    (tmp_path / "openapi.json").write_text(json.dumps(found["document"]))
    (tmp_path / "src/lib/api").mkdir(parents=True)
    subprocess.run(["node", str(SCRIPT)], cwd=tmp_path, check=True, timeout=30, capture_output=True)
    limits = (tmp_path / "src/lib/api/limits.ts").read_text()
    assert "Ring with a gap" in limits
    assert limits.count('"ring"') >= 2
