"""What one unit's pings do at another's screen: against the sonar equation by hand, and against the Bench."""

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam
from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.shelter.choices import choices_of, worth_trying
from hollow_glint.core.shelter.heard import as_neighbour, fastest_interval, heard_pair, most_lit, paired, share_seen
from hollow_glint.core.sonar import receiver
from hollow_glint.core.sonar.transmission import transmit
from hollow_glint.core.tuning.company import neighbour_share
from hollow_glint.core.tuning.situation import situation_at

from .parties import FINE, RING, SCROLLER, THREE, TRAIL, UNITS, WATER


def chosen(unit, water=WATER):
    return choices_of(water, unit, USUAL_JIG, None)


def test_the_level_by_way_of_the_bottom_is_the_sonar_equations():
    """Source level, both beams off axis, spreading and absorption over the image path, and what the mud reflects: Urick
    1983, one way. Worked out here from the published terms, not by the model's own path."""
    one = chosen(TRAIL)
    t = transmit(one.scene, TRAIL, one.now)
    length, level = t.hearing.of(200e3, 12.0, 60.0, np.array([2.0]))
    down = 2.0 * (one.scene.bottom_depth_m - one.scene.face_depth_m)
    path = np.hypot(down, 2.0)
    ka = beam.ka_from_beam_width(12.0)
    off = 2.0 * beam.directivity(np.arctan(2.0 / down), ka)
    source = 170.8 + 10.0 * np.log10(60.0 * TRAIL.efficiency) + 10.0 * np.log10(ka**2)
    expected = source + off - 20.0 * np.log10(path) - t.absorption_db_m * path + 10.0 * np.log10(t.hearing.bounced[1])
    assert length[1, 0] == pytest.approx(path)
    assert level[1, 0] == pytest.approx(expected, abs=0.3)
    assert length[0, 0] == pytest.approx(2.0) and length[2, 0] > length[1, 0]


@pytest.mark.parametrize("theirs", UNITS, ids=lambda unit: unit.name)
@pytest.mark.parametrize("ours", [TRAIL, RING, FINE], ids=lambda unit: unit.name)
def test_a_pair_in_the_table_is_what_the_bench_would_show(ours, theirs):
    """For every voice and way: the share that the Bench's own scene with that neighbour lights."""
    one, other = chosen(ours), chosen(theirs)
    apart = np.array([0.8, 2.3, 4.9])
    table = paired(one, other, apart)
    c = transmit(one.scene, ours, one.now).sound_speed_m_s
    rng = np.random.default_rng(4)
    for _ in range(12):
        v, u = int(rng.integers(len(one.voices))), int(rng.integers(len(other.voices)))
        w, d = int(rng.integers(len(one.ways[v]))), int(rng.integers(3))
        loudest = replace(other.now, beam=other.voices[u].beam, power=other.voices[u].power, rejection=0)
        near = as_neighbour(theirs, loudest, apart[d], c)
        assert near.ping_interval_s == pytest.approx(fastest_interval(other))
        way = one.ways[v][w].settings
        at = situation_at(replace(one.scene, neighbours=(near,)), ours, way, USUAL_JIG, one.lure_depth_m)
        lit = receiver.kept_chance(-np.expm1(-table[v, w, u, d : d + 1]), ours, way)[0]
        assert lit == pytest.approx(neighbour_share(at, way), rel=0.1, abs=1e-5)
        assert table[v, w, u, d] == pytest.approx(most_lit(ours, way, np.array([lit]))[0], rel=0.02, abs=1e-6)


def test_what_several_light_together_is_told_of_the_same_scene_as_the_bench():
    one, other = chosen(RING), chosen(THREE)
    c = transmit(one.scene, RING, one.now).sound_speed_m_s
    near = tuple(as_neighbour(THREE, other.now, away, c) for away in (1.0, 2.0, 3.0))
    at = situation_at(replace(one.scene, neighbours=near), RING, one.now, USUAL_JIG, one.lure_depth_m)
    assert share_seen(one, one.now, near) == pytest.approx(neighbour_share(at, one.now), rel=1e-9)
    pair = heard_pair(0, 1, one, one.now, near[0])
    assert pair.share < share_seen(one, one.now, near) and pair.over_lure_db > 0.0


def test_another_frequency_is_hardly_heard_and_a_narrow_beam_less_than_a_wide_one():
    """Common practice, no source: what one does in a crowd."""
    low, high = chosen(SCROLLER), chosen(FINE)
    c = transmit(low.scene, SCROLLER, low.now).sound_speed_m_s
    wide, narrow = (replace(high.now, beam=k) for k in (1, 0))  # 200 kHz and 455 kHz
    at_83 = replace(low.now, beam=0)
    at_200 = replace(low.now, beam=1)
    by = {
        (mine, theirs): heard_pair(0, 1, low, one, as_neighbour(FINE, other, 1.5, c)).over_lure_db
        for mine, one in (("83", at_83), ("200", at_200))
        for theirs, other in (("200", wide), ("455", narrow))
    }
    assert by["200", "200"] > 20.0
    assert by["200", "455"] < by["200", "200"] - 40.0 and by["83", "200"] < by["200", "200"] - 40.0


def test_a_width_quoted_at_another_level_is_brought_to_where_a_scene_takes_it():
    one = chosen(RING)
    c = transmit(one.scene, RING, one.now).sound_speed_m_s
    quoted = replace(RING, beams=(replace(RING.beams[0], level_db=-10.0), RING.beams[1]))
    as_told = as_neighbour(RING, one.now, 2.0, c)
    narrower = as_neighbour(quoted, one.now, 2.0, c)
    assert as_told.width_deg == pytest.approx(RING.beams[one.now.beam].width_deg)
    # A piston that is down 10 dB at 10 degrees off axis is down 3 dB at about 5.7 (Urick 1983).
    ka = beam.ka_from_beam_width(20.0, -10.0)
    assert beam.directivity(np.radians(narrower.width_deg / 2.0), ka) == pytest.approx(-3.0, abs=0.01)


def test_steps_of_rejection_that_nothing_speaks_for_are_not_tried():
    """Two of three lets more through than two of two and lags as much."""
    one = chosen(FINE)
    tried = worth_trying(one.scene, FINE, one.now)
    assert one.now.rejection in tried and len(tried) < len(FINE.rejections) / 2
    for step in range(len(FINE.rejections)):
        best = [k for k in tried if FINE.rejections[k].needed == FINE.rejections[step].needed]
        assert any(FINE.rejections[k].pings <= FINE.rejections[step].pings for k in best)
    still = replace(FINE, rejections=tuple(replace(r, stagger=0.0) for r in FINE.rejections))
    assert len(worth_trying(one.scene, still, one.now)) == len(FINE.rejections), "without stagger none is left out"
