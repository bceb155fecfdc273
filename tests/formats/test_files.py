"""Gear, scene, round and run files: there and back the same, and whatever is wrong in them is named with its line."""

from __future__ import annotations

import json
from typing import Any

import pytest

from hollow_glint.core.bench.command import Command
from hollow_glint.core.checks import InputError
from hollow_glint.core.drills.catalogue import KINDS
from hollow_glint.core.drills.rounds import Round, RoundPart
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.hole.contents import Hung, Neighbour, Shoal, Structure
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.runs.run_log import RunLog
from hollow_glint.core.runs.start import set_up
from hollow_glint.formats import gear_file, round_file, run_file, scene_file
from hollow_glint.formats.gear_file import Gear
from hollow_glint.formats.scene_file import SavedScene

FULL = Scene(
    9.0, "sand", 0.3, 0.4, second_hole_m=1.0, hung=(Hung("camera", 6.0),), shoals=(Shoal("bait", 20, "ball", 4.0),),
    structures=(Structure("log", 1.0, 0.4),), neighbours=(Neighbour(3.0),), plankton="thick", hour=21.5,
    under_ice_c=0.2,
)  # fmt: skip
SETUP = set_up("willing", 3)
FILES: dict[str, tuple[Any, Any]] = {
    "gear": (gear_file, Gear(SHIPPED, (Lure("jig – ähnlich", 0.005), Lure("s", 0.012, "brass", "spoon", 0.05)))),
    "scene": (
        scene_file,
        SavedScene("Dusk", "", FULL, TRAIL_UNIT, starting_settings(TRAIL_UNIT, 8.6), Lure("jig", 0.005), 7.0, 5),
    ),
    "round": (round_file, Round("Sunday", tuple(RoundPart(kind, 2, 3) for kind in list(KINDS)[:3]))),
    "run": (
        run_file,
        RunLog(
            SETUP,
            ((1, Command(to_depth_m=7.0)), (40, Command(lift_m_s=0.03, eyes="rod")),
             (60, Command(set_hook=True, force="hard")), (61, Command(settings=SETUP.settings))),
            400,
        ),
    ),
}  # fmt: skip


@pytest.fixture(params=FILES)
def kind(request):
    return request.param


def text_of(kind: str) -> str:
    module, what = FILES[kind]
    return module.write(what)


def changed(kind: str, change) -> str:
    """The file's text with something in it changed, a field to a line."""
    document = json.loads(text_of(kind))
    change(document)
    return json.dumps(document, indent=2)


def refused(kind: str, text: str) -> str:
    with pytest.raises(InputError) as wrong:
        FILES[kind][0].read(text)
    return str(wrong.value)


def test_there_and_back_is_the_same(kind):
    module, what = FILES[kind]
    assert module.read(module.write(what)) == what
    again = module.write(module.read(module.write(what)))
    assert module.write(module.read(again)) == again


def test_a_file_says_of_itself_what_it_is_and_is_read_by_eye(kind):
    module, _ = FILES[kind]
    text = text_of(kind)
    assert json.loads(text)[module.MARK] == module.VERSION
    assert text.endswith("\n") and text.count("\n") > 5
    assert "\\u" not in text, "letters stand as they are"


def test_fields_in_another_order_are_the_same_file(kind):
    module, what = FILES[kind]
    document = json.loads(text_of(kind))
    assert module.read(json.dumps(dict(reversed(document.items())))) == what


@pytest.mark.parametrize("cut", [0.1, 0.5, 0.9, 0.99])
def test_a_file_cut_short_is_refused_with_a_line(kind, cut):
    text = text_of(kind)
    assert refused(kind, text[: int(cut * len(text))]).startswith("line ")


@pytest.mark.parametrize("text", ["", "null", "[]", "5", '"text"', "{}", "NaN", '{"a": NaN}', "[" * 3000])
def test_what_is_no_such_file_is_refused_in_words(kind, text):
    said = refused(kind, text)
    assert said.startswith("line 1: ") and "Traceback" not in said


def test_another_files_mark_is_not_ours(kind):
    for other in FILES:
        if other != kind:
            assert "this is not" in refused(kind, text_of(other))


@pytest.mark.parametrize("version", [0, 2, 1.5, "1", None, True])
def test_other_versions_are_refused_with_the_line_of_the_mark(kind, version):
    module, _ = FILES[kind]
    if version is True:
        pytest.skip("JSON's true is 1 to Python; the mark is still ours")
    said = refused(kind, changed(kind, lambda document: document.update({module.MARK: version})))
    assert said.startswith("line 2: ") and "this program reads version 1" in said


def test_a_field_that_is_not_known_is_named(kind):
    said = refused(kind, changed(kind, lambda document: document.update({"wings": 2})))
    assert "wings" in said and said.startswith("line ")


def line_of(text: str, part: str) -> int:
    return next(k for k, line in enumerate(text.splitlines(), 1) if part in line)


@pytest.mark.parametrize(
    ("kind", "change", "field", "marked"),
    [
        ("gear", lambda d: d["lures"][1].update(diameter_m=9.0), "diameter_m", '"diameter_m": 9.0'),
        ("gear", lambda d: d["lures"][0].update(material="cheese"), "material", '"cheese"'),
        ("gear", lambda d: d["units"][0]["gain"].update(step="hard"), "units.0.gain.step", '"hard"'),
        ("gear", lambda d: d["units"][0].pop("beams"), "units.0.beams is missing", "    {"),
        ("scene", lambda d: d["scene"].update(bottom_depth_m=99.0), "scene.bottom_depth_m", "99.0"),
        ("scene", lambda d: d.update(seed=-1), "seed", '"seed": -1'),
        ("scene", lambda d: d["scene"].update(ice_thickness_m=2.9, bottom_depth_m=3.0), "ice_thickness_m", "2.9"),
        ("round", lambda d: d["parts"][1].update(count=0), "parts.1", '"count": 0'),
        ("round", lambda d: d["parts"][0].update(kind="juggling"), "kind", "juggling"),
        ("run", lambda d: d.update(frames=0), "frames", '"frames": 0'),
        ("run", lambda d: d["commands"][1].update(lift_m_s=99.0), "commands.1.lift_m_s", "99.0"),
        ("run", lambda d: d["commands"][0].update(frame=0), "commands.0.frame", '"frame": 0'),
        ("run", lambda d: d["setup"]["settings"].update(beam=7), "beam", '"beam": 7'),
    ],
)  # fmt: skip
def test_a_field_out_of_its_span_is_named_with_the_line_it_stands_on(kind, change, field, marked):
    text = changed(kind, change)
    said = refused(kind, text)
    assert field in said
    assert f"line {line_of(text, marked)}: " in said


def test_two_things_wrong_are_both_told(kind):
    if kind != "gear":
        pytest.skip("once is enough")

    def both(document):
        document["lures"][0]["diameter_m"] = 9.0
        document["lures"][1]["material"] = "cheese"

    said = refused("gear", changed("gear", both))
    assert "diameter_m" in said and "material" in said and said.count("line ") == 2


def test_a_command_in_a_file_holds_only_what_was_asked():
    commands = json.loads(text_of("run"))["commands"]
    assert commands[0] == {"frame": 1, "to_depth_m": 7.0}
    assert commands[2] == {"frame": 60, "set_hook": True, "force": "hard"}


def test_commands_after_the_end_of_a_run_are_refused():
    assert "frame" in refused("run", changed("run", lambda d: d.update(frames=50)))
