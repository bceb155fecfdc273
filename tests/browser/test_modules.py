"""The page's own modules, called in a real browser: units, forms, keys, words, the section, the timeline."""

from __future__ import annotations

import json
import math
from dataclasses import asdict
from pathlib import Path
from typing import get_args

import pytest

from hollow_glint.core.fan.head import CONTROLS
from hollow_glint.core.fan.settings import FanSettings
from hollow_glint.core.fish.events import EventKind
from hollow_glint.core.gear.forms import FORMS
from hollow_glint.core.gear.lures import OFF_BOTTOM_M
from hollow_glint.core.gear.profiles import SHIPPED
from hollow_glint.core.hole.hole import Hole
from hollow_glint.core.wording import QuantityUnit

MODULES = Path(__file__).parents[2] / "frontend/test-build/modules.js"
UNITS = [asdict(one) for one in SHIPPED]


@pytest.fixture(scope="module")
def call(chromium):
    """Evaluate an expression over `modules` and the argument `given`."""
    context = chromium.new_context()
    page = context.new_page()
    page.add_script_tag(path=MODULES.as_posix())
    page.evaluate("window.modules = modules")

    def called(expression: str, given=None):
        return page.evaluate(f"(given) => {{ const m = window.modules; return {expression}; }}", given)

    yield called
    context.close()


# -- units -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("metres", "system", "said"),
    [
        (6.096, "feet", "20 ft"), (6.7, "metric", "6.7 m"), (0.0, "feet", "0 ft"), (-0.001, "feet", "0 ft"),
        (-0.001, "metric", "0 m"), (60.0, "feet", "196.9 ft"),
    ],
)  # fmt: skip
def test_depths(call, metres, system, said):
    assert call("m.units.depth(given[0], given[1])", [metres, system]) == said


@pytest.mark.parametrize(
    ("value", "digits", "said"),
    [(-0.0, 1, "0"), (-0.04, 1, "0"), (-0.04, 2, "-0.04"), (10.0, 1, "10"), (100.0, 0, "100"), (1.50, 2, "1.5")],
)
def test_a_number_that_rounds_to_nothing_has_no_sign(call, value, digits, said):
    assert call("m.units.trim(given[0], given[1])", [value, digits]) == said


@pytest.mark.parametrize(
    ("value", "said"), [(0.04, "0.0"), (-0.04, "0.0"), (0.06, "+0.1"), (-0.06, "−0.1"), (12.0, "+12.0"), (-0.0, "0.0")]
)
def test_a_difference_has_its_sign_unless_it_rounds_to_nothing(call, value, said):
    assert call("m.units.signed(given, 1)", value) == said


@pytest.mark.parametrize(
    ("seconds", "said"), [(0, "0:00"), (-0.3, "0:00"), (59.99, "0:59"), (60, "1:00"), (605.2, "10:05")]
)
def test_a_time_in_a_run(call, seconds, said):
    assert call("m.units.clock(given)", seconds) == said


def test_every_measure_there_and_back(call):
    """What is shown in either system and read again is the same length, to what the digits hold."""
    for measure, digits in (("deepMeasure(2)", 0.005 * 0.3048), ("shortMeasure", 0.05 * 0.0254)):
        for system in ("feet", "metric"):
            for metres in (0.13, 0.381, 2.5, 17.7):
                back = call(
                    f"m.units.{measure}.read(Number(m.units.{measure}.show(given[0], given[1])), given[1])",
                    [metres, system],
                )
                assert back == pytest.approx(metres, abs=max(digits, 0.0051))


@pytest.mark.parametrize("unit", get_args(QuantityUnit))
@pytest.mark.parametrize("system", ["feet", "metric"])
def test_a_quantity_of_every_unit_is_written_out(call, unit, system):
    said = call(
        "m.units.sentence('It is {x}.', { x: { value: 2, unit: given[0] } }, given[1], ['dim', 'bright'])",
        [unit, system],
    )
    assert "{" not in said
    assert any(letter.isdigit() for letter in said) or "bright" in said


def test_a_name_without_a_quantity_stays_to_be_seen(call):
    assert call("m.units.sentence('At {x}.', {}, 'feet')") == "At {x}."


def test_the_page_has_the_cores_constants(call):
    constants = call("m.limits.constants")
    assert constants["foot"] == 0.3048
    assert constants["inch"] == 0.0254
    assert constants["offBottom"] == OFF_BOTTOM_M
    assert {one["name"] for one in call("m.limits.forms")} == set(FORMS)


# -- what is said ------------------------------------------------------------------------------------------------------

EVENT = {"depth_m": 5.0, "fish_length_m": 0.4, "number": -0.6, "species": "char", "how": "", "strike_id": None,
         "not_kept": ""}  # fmt: skip
# On the Bench these are told by the picture, the rod tip or the exercise's bar.
SHOWN = {"called", "bite", "gone", "nothing on", "came off", "aim met", "run over"}
FELT = {"hooked", "landed", "nothing on", "came off", "line parted", "already on", "run over"}


@pytest.mark.parametrize("kind", get_args(EventKind))
def test_every_event_has_its_words_or_a_reason_for_none(call, kind):
    on_the_bench = call("m.events.told(given, 'feet')", {**EVENT, "kind": kind})
    assert (on_the_bench is None) == (kind in SHOWN), kind
    in_a_run = call("m.events.felt(given, 'feet')", {**EVENT, "kind": kind})
    assert (in_a_run is not None) == (kind in FELT), kind
    for said in (on_the_bench, in_a_run):
        assert said is None or (said.endswith(".") and "undefined" not in said and "NaN" not in said)


def test_what_is_on_the_hook_is_the_news_until_it_is_landed(call):
    """Of a school, others look and leave meanwhile: none of them talks over the one that is played."""
    kinds = ["noticed", "hooked", "put off by the lift", "following", "already on", "landed", "lost interest"]
    said = call(
        "(() => {const t = new m.events.Teller(); return given.map((one, k) => t.told(one, 'feet', 500 * k));})()",
        [{**EVENT, "kind": kind} for kind in kinds],
    )
    assert [words is not None for words in said] == [True, True, False, False, True, True, True]
    # A fish whose end is never told (the water was changed under it) does not silence the others for good.
    later = call(
        "(() => {const t = new m.events.Teller(); return given.map((one, k) => t.told(one, 'feet', 1e5 * k))[1];})()",
        [{**EVENT, "kind": kind} for kind in ("hooked", "lost interest")],
    )
    assert later


def test_a_strike_that_is_not_in_the_log_yet_is_told_so(call):
    said = call("m.events.told(given, 'metric')", {**EVENT, "kind": "hooked", "not_kept": "The disk is full."})
    assert "not in the log yet" in said
    assert "The disk is full." in said
    kept = call("m.events.told(given, 'metric')", {**EVENT, "kind": "strike kept", "strike_id": 4})
    assert "in the log now" in kept
    over = call("m.events.felt(given, 'metric')", {**EVENT, "kind": "run over", "not_kept": "The disk is full."})
    assert "not kept yet" in over


# -- keys --------------------------------------------------------------------------------------------------------------


def test_keys_act_once_or_as_long_as_they_are_held(call):
    done = call(
        """(() => {
          const done = [];
          const keys = [
            { on: ['ArrowUp'], press: (e) => done.push(e.shiftKey ? 'fast' : 'up'), release: () => done.push('still'),
              repeats: true },
            { on: [' '], press: () => done.push('twitch') },
            { on: ['g'], press: () => done.push('gain') },
          ];
          const event = (key, more = {}) =>
            new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
          const send = (element, e) => {
            let taken;
            element.addEventListener('keydown', (got) => { m.keys.pressed(keys, got); taken = got.defaultPrevented; },
                                     { once: true });
            element.dispatchEvent(e);
            return taken;
          };
          const plain = document.body.appendChild(document.createElement('div'));
          send(plain, event('ArrowUp'));
          send(plain, event('ArrowUp', { repeat: true, shiftKey: true }));
          send(plain, event(' '));
          send(plain, event(' ', { repeat: true }));
          send(plain, event('G'));
          send(plain, event('g', { ctrlKey: true }));
          m.keys.released(keys, event('ArrowUp'));
          const button = document.body.appendChild(document.createElement('button'));
          send(button, event(' '));
          send(button, event('g'));
          const text = document.body.appendChild(document.createElement('input'));
          send(text, event('g'));
          return done;
        })()"""
    )
    assert done == ["up", "fast", "twitch", "gain", "still", "gain"]


def test_a_button_that_was_touched_gives_the_keys_back_and_one_reached_by_tab_keeps_them(call):
    kept = call(
        """(() => {
          const button = document.body.appendChild(document.createElement('button'));
          document.body.addEventListener('click', m.keys.giveBack);
          button.focus();
          button.dispatchEvent(new MouseEvent('click', { detail: 0, bubbles: true }));
          const byKey = document.activeElement === button;
          button.dispatchEvent(new MouseEvent('click', { detail: 1, bubbles: true }));
          return [byKey, document.activeElement === button];
        })()"""
    )
    assert kept == [True, False]


@pytest.mark.parametrize(
    ("push", "speed"),
    [(0, 0), (11, 0), (-11, 0), (12, 0.01), (41, 0.03), (70, 0.05), (150, 0.35), (500, 0.35), (-30, -0.08),
     (-200, -0.6)],
)  # fmt: skip
def test_the_grip(call, push, speed):
    assert call("m.hand.speedOf(given)", push) == pytest.approx(speed, abs=0.006)


# -- forms -------------------------------------------------------------------------------------------------------------

HOLE = asdict(Hole("A hole", 7.01, "sand", 0.356, 0.432, temperature_c=1.5, water="Kaldmere", note="By the reeds"))


@pytest.mark.parametrize("system", ["feet", "metric"])
def test_a_holes_form_loses_nothing(call, system):
    read = call(
        "m.fields.fromForm(m.fields.toForm(given[0], given[1]), given[1], given[0])",
        [{"id": 1, "version": 1, **HOLE}, system],
    )
    assert read["problems"] == {}
    assert read["fields"] == HOLE


def test_a_holes_form_in_other_units_keeps_what_was_typed(call):
    """Typed in feet and shown in metres: the same depth; what was not typed is stored, to the last digit."""
    moved = call(
        """(() => {
          const form = m.fields.toForm(given, 'feet');
          form.numbers.bottom_depth_m = '30';
          form.numbers.temperature_c = 'cold';
          const metric = m.fields.inUnits(form, 'feet', 'metric', given);
          return [metric.numbers, m.fields.fromForm(metric, 'metric', given)];
        })()""",
        {"id": 1, "version": 1, **HOLE},
    )
    numbers, read = moved
    assert numbers["bottom_depth_m"] == "9.1"
    assert numbers["temperature_c"] == "cold"
    assert "cold" in read["problems"]["temperature_c"]
    assert read["fields"]["ice_thickness_m"] == HOLE["ice_thickness_m"]


@pytest.mark.parametrize(
    ("key", "text", "said"),
    [("bottom_depth_m", "0.1", "0.5 to 60 m"), ("bottom_depth_m", "", "empty"), ("bottom_depth_m", "61", "0.5 to 60 m"),
     ("hole_diameter_m", "200", "8 to 100 cm"), ("face_depth_m", "690", "0 to 500 cm")],
)  # fmt: skip
def test_spans_on_the_page_are_the_cores(call, key, text, said):
    problems = call(
        """(() => {
          const form = m.fields.toForm(given[0], 'metric');
          form.numbers[given[1]] = given[2];
          return m.fields.fromForm(form, 'metric', given[0]).problems;
        })()""",
        [{"id": 1, "version": 1, **HOLE}, key, text],
    )
    assert said in problems[key]


def test_a_face_under_the_bottom_is_named(call):
    problems = call(
        """(() => {
          const form = m.fields.toForm(given, 'metric');
          form.numbers.bottom_depth_m = '1';
          form.numbers.face_depth_m = '95';
          return m.fields.fromForm(form, 'metric', given).problems;
        })()""",
        {"id": 1, "version": 1, **HOLE},
    )
    assert "leave at least" in problems["face_depth_m"]


def test_differences_of_two_holes_are_in_the_forms_words(call):
    rows = call(
        """m.fields.holeDifferences(m.fields.toForm(given, 'metric'),
                                    m.fields.toForm({ ...given, note: 'Moved', bottom_depth_m: 8 }, 'metric'))""",
        {"id": 1, "version": 1, **HOLE},
    )
    assert rows == [
        {"name": "Depth", "mine": "7", "theirs": "8"},
        {"name": "Note", "mine": "By the reeds", "theirs": "Moved"},
    ]


@pytest.mark.parametrize("unit", UNITS, ids=lambda one: one["name"])
@pytest.mark.parametrize("system", ["feet", "metric"])
def test_a_units_form_loses_nothing(call, unit, system):
    """What is not changed on the form stays what it was, unrounded, in either system and after a change of it."""
    given = json.loads(json.dumps(unit))
    back = call(
        "m.unit.fromText(given[0], given[0].name, m.unit.toText(given[0], given[1]), given[1])", [given, system]
    )
    assert back == given
    there = call(
        """(() => {
          const feet = m.unit.toText(given, 'feet');
          const again = m.unit.inUnits(m.unit.inUnits(feet, 'feet', 'metric', given), 'metric', 'feet', given);
          return m.unit.fromText(given, given.name, again, 'feet');
        })()""",
        given,
    )
    assert there == given


@pytest.mark.parametrize(
    ("key", "text", "said"),
    [("beams", "200 by 12", "not a beam"), ("beams", "200 x 12 @ -10, 80x30", ""), ("pulses", "short", "not a pulse"),
     ("pictures", "trace, map", "not a picture"), ("rows", "many", "not a number"), ("powers_w", "", "needed"),
     ("free_windows_m", "", "")],
)  # fmt: skip
def test_a_units_line_is_checked_as_it_is_typed(call, key, text, said):
    wrong = call("m.unit.wrongWith(given[0], given[1])", [key, text])
    assert said in wrong
    assert bool(wrong) == bool(said)


NUMBERS = """depth_m ice_thickness_m snow_m slush_m face_depth_m weed_height_m temperature_c lure_depth_m
             fish_length_m"""
CARD = dict.fromkeys(NUMBERS.split())


def test_what_is_known_is_read_from_text_and_empty_is_not_known(call):
    wanted = {**CARD, "depth_m": 7.0, "temperature_c": 1.0}
    numbers, problems = call(
        """(() => {
          const text = m.known.toText(given, 'feet');
          text.ice_thickness_m = '14';
          text.snow_m = 'deep';
          text.temperature_c = '';
          const read = m.known.fromText(text, given, 'feet');
          return [read.numbers, read.problems];
        })()""",
        wanted,
    )
    assert numbers["depth_m"] == 7.0
    assert numbers["ice_thickness_m"] == pytest.approx(14 * 0.0254)
    assert numbers["weed_height_m"] is None
    assert numbers["temperature_c"] == 1
    assert "deep" in problems["snow_m"]
    assert call("m.known.fromText({ ...m.known.toText(given, 'feet'), depth_m: '' }, given, 'feet').problems", wanted)[
        "depth_m"
    ].startswith("Depth is empty")


# -- the section -------------------------------------------------------------------------------------------------------


def test_a_fish_is_followed_by_who_it_is_and_not_by_its_place_in_a_list(call):
    """When the first of two leaves, the second must not glide from where the first was."""
    frame = lambda *fish: {"fish": [{"who": who, "x": x, "y": 0.0, "z": 5.0} for who, x in fish]}  # noqa: E731
    before, now = frame((3, -4.0), (7, 2.0)), frame((7, 1.0), (9, -3.0))
    places = call("m.section.gliding(given[0], given[1], 0.5).map(({ one, at }) => [one.who, at.x])", [before, now])
    assert places == [[7, 1.5], [9, -3.0]]


@pytest.mark.parametrize("system", ["feet", "metric"])
@pytest.mark.parametrize("bottom", [2.0, 7.0, 30.0, 60.0])
def test_ticks_are_round_and_few(call, bottom, system):
    ticks = call("[...m.axis.ticks({ top: 0, bottom: given[0] }, given[1])]", [bottom, system])
    assert 2 <= len(ticks) <= 11
    figures = [float(one[1]) for one in ticks]
    assert figures == sorted(figures)
    assert figures[0] == 0
    assert len({round(b - a, 6) for a, b in zip(figures, figures[1:], strict=False)}) == 1


def test_history_keeps_the_newest_and_the_windows_they_had(call):
    found = call(
        """(() => {
          const bytes = Uint8Array.from([0, 1, 2, 3]);
          const packed = btoa(String.fromCharCode(...bytes));
          return [...m.history.unpack(packed)];
        })()"""
    )
    assert found == [0, 1, 2, 3]


def test_a_ladders_colours_by_day_and_by_night(call):
    ladder = UNITS[0]["ladders"][0]
    day = call("m.ladder.ladderColours(given, 'rime', 1)", json.loads(json.dumps(ladder)))
    night = call("m.ladder.ladderColours(given, 'lantern', 1)", json.loads(json.dumps(ladder)))
    assert len(day) == len(night) == len(ladder["steps"]) + 1
    assert day != night
    assert call("m.ladder.css([1, 2, 3])") == "rgb(1 2 3)"


# -- the timeline ------------------------------------------------------------------------------------------------------


def test_a_touch_on_the_timeline_is_the_time_under_it(call):
    at = call(
        """new m.timeline.Timeline({ section: { ice_thickness_m: 0.4, bottom_depth_m: 8 } }, null, null)
             .timeAt(150, 300, { from: 20, to: 60 })"""
    )
    assert at == 40


# -- what is remembered of a picture -----------------------------------------------------------------------------------


def test_the_memory_is_a_ring_that_keeps_the_newest(call):
    said = call(
        """(() => {
          const h = new m.history.History(4, 2);
          h.useLadder("a", [[0, 0, 0], [9, 9, 9], [200, 200, 200]]);
          const before = h.frame(0);
          for (let k = 1; k <= 6; k++) h.push(Uint8Array.from([7, k % 3, 1]), 1, k, 0, 9, { number: k });
          return [before, h.count, h.newest, [0, 1, 3, 9].map((back) => h.frame(back).number)];
        })()"""
    )
    assert said == [None, 4, 6, [6, 5, 3, 3]]


def test_a_ping_is_painted_in_its_ladders_colours_and_painted_anew_in_others(call):
    script = """(() => {
      const h = new m.history.History(3, 2);
      h.useLadder("a", [[0, 0, 0], [9, 99, 199]]);
      h.push(Uint8Array.from([1, 0]), 0, 1, 0, 9, {});
      const pixel = () => [...h.canvas.getContext("2d").getImageData(h.head, 0, 1, 2).data];
      const first = pixel();
      h.recolour(() => [[255, 255, 255], [1, 2, 3]]);
      return [first, pixel()];
    })()"""
    assert call(script) == [[9, 99, 199, 255, 0, 0, 0, 255], [1, 2, 3, 255, 255, 255, 255, 255]]


def test_two_pages_of_pings_are_one_picture(call):
    page = {"count": 2, "levels": "AAE=", "time_s": [0.1, 0.2], "top_m": [0, 0], "bottom_m": [9, 9],
            "line_in_m": [0, 0.1], "rows": 1}  # fmt: skip
    more = {**page, "count": 1, "levels": "Ag==", "time_s": [0.3], "top_m": [1], "bottom_m": [8], "line_in_m": [0]}
    whole = call("m.pings.joined(given[0], given[1])", [page, more])
    assert whole["count"] == 3 and whole["time_s"] == [0.1, 0.2, 0.3] and whole["bottom_m"] == [9, 9, 8]
    assert call("[...m.history.unpack(given)]", whole["levels"]) == [0, 1, 2]
    assert whole["rows"] == 1


def test_a_recordings_pings_keep_the_depths_that_they_had_when_its_window_changes(call):
    """Two pings, each lit in its upper half: the older over 0 to 2 m, the newest over 0 to 1 m, which is the axis."""
    lit = call(
        """(() => {
            const canvas = document.createElement("canvas");
            [canvas.width, canvas.height] = [200, 100];
            const p = canvas.getContext("2d", { willReadFrequently: true });
            const ladder = { steps: [{ name: "on", begins: 0, colour: [250, 250, 250] }], first_begins: 0 };
            const pings = { count: 2, rows: 2, levels: "AQABAA==", time_s: [0.1, 0.2], top_m: [0, 0],
                            bottom_m: [2, 1], line_in_m: [0, 0], first: 0 };
            const paper = new m.clip.ClipPaper(pings, given, 1);
            paper.colour("rime");
            const inks = { panel: "#fff", ink: "#000", soft: "#888", action: "#f00", fishZone: "#0f0", font: "9px x" };
            paper.paint(p, { left: 0, top: 0, width: 200, height: 100 }, 0.2, 2, m.clip.UNMARKED, inks, "metric");
            const at = (x, y) => [...p.getImageData(x, y, 1, 1).data].slice(0, 3).join(" ");
            return { newest: [at(60, 30), at(60, 70)], older: [at(130, 30), at(130, 70)] };
        })()""",
        UNITS[0]["ladders"][0],
    )
    bright, dark = lit["newest"]
    assert bright != dark
    assert lit["older"] == [bright, bright], "its lit half reaches down to 1 m, which is the whole of the axis now"


@pytest.mark.parametrize(("width", "height"), [(0, 0), (18, 12), (400, 5)])
def test_a_picture_that_has_no_room_yet_is_painted_without_a_complaint(call, width, height):
    """Before the page is laid out its canvas has no size: each of the three pictures is nothing then, and no error."""
    script = """(() => {
      const p = document.createElement("canvas").getContext("2d"), h = new m.history.History(8, 4);
      const box = { left: 0, top: 0, width: given[0], height: given[1] }, span = { top: 0, bottom: 9 };
      const shades = { fills: ["#000", "#fff"], line: "#888" };
      h.useLadder("all", [[0, 0, 0], [255, 255, 255]]);
      h.push(new Uint8Array([0, 1, 1, 0]), 0, 1, 0, 9, null);
      m.echo.paintRing(p, box, span, h, 0, shades, true);
      m.echo.paintStrip(p, box, span, h, 0, shades, true);
      m.echo.paintTrace(p, box, span, h, 0, shades, { speed: 1, shift: 0 });
      const ring = m.echo.ringOf(box);
      return [ring.outer >= ring.inner && ring.inner >= 0, m.echo.rangeOnRing(box, span, 40, 40)];
    })()"""
    assert call(script, [width, height]) == [True, None]


# -- a calibration as it is typed --------------------------------------------------------------------------------------

READING = {"lure_id": 3, "depth_m": 4.572, "gain": 12.5, "colour": 1}


def test_a_reading_is_a_row_in_either_system_and_keeps_its_depth_exactly(call):
    feet, metric = (call("m.readings.rowOf(given[0], given[1])", [READING, system]) for system in ("feet", "metric"))
    assert (feet["depth"], metric["depth"]) == ("15", "4.6")
    assert feet["exact"] == metric["exact"] == 4.572
    assert (feet["lure"], feet["gain"], feet["colour"]) == ("3", "12.5", "1")
    there = call("m.readings.inUnits([given], 'feet', 'metric')", feet)
    assert there == [metric]
    assert call("m.readings.inUnits(given, 'metric', 'feet')", there) == [feet]


def test_what_is_typed_goes_to_other_units_and_what_is_no_number_stays(call):
    typed = {"lure": "3", "depth": "20,5", "gain": "9", "colour": "0", "exact": None}
    assert call("m.readings.inUnits([given], 'feet', 'metric')[0].depth", typed) == "6.2"
    for odd in ("", "deep", " "):
        row = {**typed, "depth": odd}
        assert call("m.readings.inUnits([given], 'feet', 'metric')[0].depth", row) == odd
        assert call("m.readings.whole(given)", row) is False
    assert call("m.readings.whole(given)", typed) is True
    assert call("m.readings.whole(given)", {**typed, "gain": ""}) is False


def test_words_stand_for_a_moment_and_the_newest_stand_for_all_of_theirs(call):
    seen = call(
        """(async () => {
          const note = new m.notice.Notice(120), seen = [], wait = (ms) => new Promise((done) => setTimeout(done, ms));
          note.say("first"); await wait(80);
          note.say("second"); seen.push(note.text);
          await wait(80); seen.push(note.text);  // the first one's time is over, the second one's is not
          await wait(80); seen.push(note.text);
          note.say("third"); note.clear(); seen.push(note.text);
          return seen;
        })()"""
    )
    assert seen == ["second", "second", None, None]


# -- a card in words ---------------------------------------------------------------------------------------------------

KNOBS = {"beam": "beams", "power": "powers_w", "pulse": "pulses", "rejection": "rejections", "tvg": "tvg_db_decade",
         "blanking": "blanking_m", "filter": "noise_filters", "ladder": "ladders"}  # fmt: skip


@pytest.fixture(scope="module")
def cards(program):
    """A card for every unit, over a shallow hole and a deep one."""
    units = program.ask("GET", "/api/units")[1]["units"]
    made = []
    for unit in units:
        for depth in (3.0, 14.0):
            status, card = program.ask(
                "POST", "/api/hole-card", {"depth_m": depth, "unit_id": unit["id"], "lure_id": 3}
            )
            assert status == 200, card
            made.append(card.get("card", card))
    return made


@pytest.mark.parametrize("system", ["feet", "metric"])
def test_a_cards_lines_are_whole_and_name_only_knobs_that_the_unit_has(call, cards, system):
    for card in cards:
        lines = call("[...m.lines.settingLines(given[0], given[1]), ...m.lines.numberLines(given[0], given[1])]",
                     [card, system])  # fmt: skip
        assert len({one["key"] for one in lines}) == len(lines) > 10
        for one in lines:
            assert one["name"] and one["value"], one
            assert not any(word in one["value"] + one["does"] for word in ("NaN", "undefined", "null", "[object"))
        keys = {one["key"] for one in lines}
        for key, listed in KNOBS.items():
            if len(card["unit"][listed]) == 1:
                assert key not in keys, (key, card["unit"]["name"])


def test_what_changed_on_a_card_is_marked_with_what_it_said_before(call):
    was = [{"key": "gain", "value": "12", "does": "a"}, {"key": "beam", "value": "wide", "does": "a"},
           {"key": "range", "value": "20 ft", "does": "a"}]  # fmt: skip
    now = [{"key": "gain", "value": "14", "does": "a"}, {"key": "beam", "value": "wide", "does": "b"},
           {"key": "range", "value": "20 ft", "does": "a"}, {"key": "tvg", "value": "1", "does": "a"}]  # fmt: skip
    assert call("m.lines.differing(given[0], given[1])", [was, now]) == {"gain": "12", "beam": ""}


@pytest.mark.parametrize("system", ["feet", "metric"])
def test_a_card_fits_into_a_message_with_what_is_set_first(call, cards, system):
    for card in cards:
        text = call("m.lines.textMessage(given[0], 'Lantern point', given[1])", [card, system])
        assert text.startswith("Lantern point") and len(text) <= 480
        assert not any(word in text for word in ("NaN", "undefined", "null"))
        assert (" ft" in text) == (system == "feet")


# --- steps, places and marks ---------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("count", "open_", "hidden", "width", "row", "rest"),
    [
        (8, "a", [], 360, "abcdefgh", ""),
        (8, "a", [], 320, "abcdef", "gh"),
        (8, "h", [], 320, "abcdeh", "fg"),
        (9, "a", [], 390, "abcdefg", "hi"),
        (9, "a", ["b"], 390, "acdefgh", "bi"),
        (8, "a", ["c", "d"], 360, "abefgh", "cd"),
        (8, "c", ["c", "d"], 360, "abcefgh", "d"),
        (8, "a", ["h"], 1e9, "abcdefg", "h"),
        (8, "e", [], 90, "e", "abcdfgh"),
    ],
)
def test_as_many_steps_as_a_thumb_can_tell_apart(call, count, open_, hidden, width, row, rest):
    given = [[{"key": key} for key in "abcdefghi"[:count]], open_, hidden, width]
    found = call("(() => { const r = modules.steps.inRow(...given); return [r.row, r.rest]; })()", given)
    assert ["".join(one["key"] for one in part) for part in found] == [row, rest]


@pytest.mark.parametrize(
    ("about", "size"),
    [((100, 100), (300, 120)), ((100, 590), (300, 120)), ((760, 300), (300, 120)), ((400, 300), (700, 260)),
     ((10, 10), (300, 500)), ((790, 590), (300, 500))],
)  # fmt: skip
def test_a_box_stands_beside_what_it_is_about_and_not_over_it(call, about, size):
    x, y = about
    rect = {"left": x - 20, "right": x + 20, "top": y - 20, "bottom": y + 20}
    given = [rect, *size]
    place = call("(window.innerWidth = 800, window.innerHeight = 600, modules.focus.beside(...given))", given)
    left, top = place["left"], place["top"]
    over = left < x + 20 and x - 20 < left + size[0] and top < y + 20 and y - 20 < top + size[1]
    assert not over
    assert left >= 0 and left + size[0] <= 800 and top >= 0 and top + size[1] <= 600


def test_marks_are_what_stays_lit_and_keep_their_numbers(call):
    found = call(
        """(() => {
          const history = new modules.history.History(40, 100);
          history.useLadder('a', [[0,0,0],[9,9,9],[99,99,99]]);
          const ping = (lit) => {
            const levels = new Uint8Array(100);
            for (const [from, to, level] of lit) levels.fill(level, from, to);
            return levels;
          };
          let n = 0;
          const push = (lit) => history.push(ping(lit), 0, n++, 0, 10, {});
          const seen = [];
          // A mark, a tail in pieces, and a speck in one ping of five.
          for (let i = 0; i < 5; i++) push([[20, 24, 1], [60, 66, 2], [68, 72, 1], ...(i === 2 ? [[40, 41, 2]] : [])]);
          let id = 0;
          let before = modules.marks.numbered(modules.marks.seenMarks(history), [], () => id++);
          seen.push(before);
          for (let i = 0; i < 5; i++) push([[10, 12, 1], [21, 25, 1], [60, 72, 2]]);
          before = modules.marks.numbered(modules.marks.seenMarks(history), before, () => id++);
          seen.push(before);
          return seen;
        })()""",
        None,
    )
    first, second = found
    near = lambda one: (one["id"], round(one["top"], 2), round(one["bottom"], 2), one["level"])  # noqa: E731
    assert [near(one) for one in first] == [(0, 2.0, 2.4, 1), (1, 6.0, 7.2, 2)]
    assert [near(one) for one in second] == [(2, 1.0, 1.2, 1), (0, 2.1, 2.5, 1), (1, 6.0, 7.2, 2)]


# -- the fan's picture -------------------------------------------------------------------------------------------------

SHAPE = {
    "beams": list(range(-7, 128)),
    "bins": 100,
    "reach": 20.0,
    "depth": 1.0,
    "ahead": 18.0,
    "behind": 2.0,
    "deep": 9.0,
}


@pytest.mark.parametrize(("ahead", "deep"), [(10.0, 1.5), (5.0, 6.0), (0.5, 8.0), (-1.5, 5.0), (17.5, 1.2)], ids=str)
def test_a_pixel_of_the_fan_shows_the_beam_and_range_that_look_there(call, ahead, deep):
    """By Pythagoras and the arc tangent: a tenth of a metre to the pixel, a beam to the degree."""
    x, y = int((ahead + 2.0) * 10), int(deep * 10)
    cell = call("m.fan.cellsOf(200, 90, given.shape)[given.at]", {"shape": SHAPE, "at": y * 200 + x})
    across, down = (x + 0.5) / 10 - 2.0, (y + 0.5) / 10 - 1.0
    beam, bin_number = divmod(cell, 100)
    assert abs(beam - 7 - math.degrees(math.atan2(down, across))) <= 0.51
    assert bin_number == int(math.hypot(across, down) / 20.0 * 100)


def test_where_the_fan_does_not_look_nothing_is_painted(call):
    """Above its upper edge, and behind its lower one."""
    cells = call("[...m.fan.cellsOf(200, 90, given)]", SHAPE)
    assert cells[0 * 200 + 60] == -1 and cells[12 * 200 + 1] == -1
    painted = call(
        """(() => { const image = new ImageData(200, 90); const levels = new Uint8Array(13500).fill(3);
        const colours = m.fan.coloursOf("#000000", ["#102030"], 30, "#ffffff");
        m.fan.paint(image, m.fan.cellsOf(200, 90, given), levels, colours);
        return [[...image.data.slice(240, 244)], [...image.data.slice(4 * 6060, 4 * 6060 + 4)]]; })()""",
        SHAPE,
    )
    assert painted == [[0, 0, 0, 0], [16, 32, 48, 255]]


def test_the_fans_colours_go_from_dark_through_the_ladder_to_the_ground(call):
    found = call('m.fan.coloursOf("#000000", ["#202020", "#808080", "#e0e0e0"], 30, "#123456")')
    assert len(found) == 32 and found[0] == [0, 0, 0] and found[31] == [18, 52, 86]
    ramp = [one[0] for one in found[1:31]]
    assert ramp == sorted(ramp) and ramp[0] == 32 and ramp[-1] == 224 and len(set(ramp)) > 15


def test_every_control_of_the_fan_is_said_in_the_readers_measure(call):
    settings = {**asdict(FanSettings()), "square_m": 3.048, "damping_m": 0.0}
    for system, reach, square in (("feet", "82 ft", "10 ft"), ("metric", "25 m", "3 m")):
        given = {"settings": settings, "system": system, "controls": CONTROLS}
        said = call("given.controls.map((one) => m.fanWords.valueOf(one, given.settings, given.system))", given)
        told = dict(zip(CONTROLS, said, strict=True))
        assert (told["ahead"], told["squares"], told["damping"]) == (reach, square, "off")
        assert call("given.every((one) => m.fanWords.NAMES[one].length > 3)", list(CONTROLS))
    message = call(
        "m.fanWords.messageOf(given, ['gain', 'ahead'], 'metric')",
        {"head": "near reach", "hang": {"depth_m": 0.7, "mounting": "ahead"}, "settings": settings},
    )
    assert message == "Near reach: head 0.7 m down, looks ahead, gain 30, reach ahead 25 m."
