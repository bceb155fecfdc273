"""Schemathesis over the program's own OpenAPI document: nothing sent to it may break it."""

from __future__ import annotations

import tempfile
from collections import Counter
from pathlib import Path

import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.generation.meta import TestPhase
from schemathesis.specs.openapi.checks import positive_data_acceptance

from hollow_glint import demo
from hollow_glint.core.fish import cadence
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app
from tests.effort import EFFORT, bounded
from tests.web import quick_pocket

_folder = tempfile.TemporaryDirectory()
_store = Database(Path(_folder.name) / "store.sqlite3")
demo.seed(_store)
app = create_app(_store)
app.config["live_benches"].most = 2  # so that "full" is met too
cadence.WATCHED_S = 4.0  # hundreds of requests, none of them for what the fish do
quick_pocket.at_one_depth()

schema = schemathesis.openapi.from_wsgi("/api/openapi.json", app).exclude(path_regex="/stream$")

# Of what is aimed at the edges of every field (nine thousand requests) each third is sent to an address; the sweep of
# `make bench` sends all.
EVERY = 1 if EFFORT > 1 else 3
_asked: Counter[str] = Counter()


@schema.parametrize()
@settings(bounded(3), suppress_health_check=list(HealthCheck))
def test_nothing_breaks_it(case):
    if case.meta.phase.name == TestPhase.COVERAGE:
        _asked[case.operation.label] += 1
        if _asked[case.operation.label] % EVERY != 1 % EVERY:
            return
    answer = case.call()
    # Two fields that are each in their span can contradict one another, which a JSON schema cannot say.
    excluded = [positive_data_acceptance]
    # Full is an answer here, not a fault: the benches are few on purpose.
    if answer.status_code == 503:
        excluded.append(not_a_server_error)
    case.validate_response(answer, excluded_checks=excluded)
    if answer.status_code >= 400:
        kind = {name.lower(): values for name, values in answer.headers.items()}["content-type"]
        assert kind[0].startswith("application/problem+json")
        assert answer.json()["detail"].endswith(".")
