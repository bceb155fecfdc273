"""Hours in the cold: Peukert's law, the handbook's shares, and spans that keep their order."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_glint.core.trip.power import KINDS, lasts
from tests.effort import bounded


def test_at_its_rated_draw_and_in_warmth_a_battery_gives_what_it_is_rated_for():
    found = lasts("lead", 12.0, 20.0, 0.6, 25.0).hours
    assert found.likely == pytest.approx(20.0 * KINDS["lead"].usable[1])
    assert found.low < found.likely < found.high == pytest.approx(20.0)


def test_emptied_faster_lead_gives_less_by_peukerts_law():
    """Peukert 1897: t = H (C / (I H))^k. A 20 h battery of 100 Ah at 10 A with k = 1.2 gives 8.7 h, where capacity over
    draw would be 10 (worked by hand)."""
    assert pytest.approx(8.7, abs=0.05) == 20.0 * (100.0 / (10.0 * 20.0)) ** 1.2
    kind = KINDS["lead"]
    found = lasts("lead", 100.0, 20.0, 10.0, 25.0).hours
    assert found.likely == pytest.approx(20.0 * 0.5 ** kind.exponent[1] * kind.usable[1])
    assert lasts("lithium iron phosphate", 100.0, 20.0, 10.0, 25.0).hours.likely > found.likely


def test_cold_takes_from_lead_more_than_from_lithium_and_the_reasons_say_how_much():
    warm, cold = (lasts("lead", 9.0, 20.0, 0.9, t) for t in (20.0, -18.0))
    assert 0.5 < cold.hours.likely / warm.hours.likely < 0.7
    assert cold.hours.high - cold.hours.low > 0.3 * cold.hours.likely
    lithium = lasts("lithium iron phosphate", 9.0, 20.0, 0.9, -18.0).hours
    assert lithium.likely > cold.hours.likely
    plain, _, share, _ = (next(iter(sentence.values.values())).value for sentence in cold.reasons)
    assert plain == pytest.approx(10.0) and 55.0 < share < 65.0


@bounded(60)
@given(
    st.sampled_from(sorted(KINDS)), st.floats(1.0, 200.0), st.floats(1.0, 30.0), st.floats(0.05, 10.0),
    st.floats(-35.0, 40.0),
)  # fmt: skip
def test_spans_keep_their_order_and_more_draw_or_cold_never_lasts_longer(chemistry, capacity, rated, draw, degrees):
    found = lasts(chemistry, capacity, rated, draw, degrees).hours
    assert 0.0 < found.low <= found.likely <= found.high
    for more_draw, colder in ((1.3, 0.0), (1.0, 5.0)):
        worse = lasts(chemistry, capacity, rated, draw * more_draw, degrees - colder).hours
        assert worse.likely <= found.likely + 1e-9


def test_what_is_no_battery_is_refused_by_name():
    with pytest.raises(ValueError, match="chemistry is 'coal': accepted are lead, lithium iron phosphate"):
        lasts("coal", 9.0, 20.0, 0.9, 0.0)
    with pytest.raises(ValueError, match="draw_a is 0"):
        lasts("lead", 9.0, 20.0, 0.0, 0.0)
