"""The pocket sheet: made on the page, opened from a phone's storage with no network, held against the program at two
thousand points, and two phones' notes taken in at night."""

from __future__ import annotations

import base64
import json
import re
from datetime import datetime
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, expect

from hollow_glint.core.card.hole_card import HoleCard, hole_card
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.gear.ladders import SIX_STEP
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.unit import unit_from_dict
from hollow_glint.core.reader.call_sheet import call_sheet
from hollow_glint.core.reader.observation import (
    BOTTOMS,
    CHANGES,
    MOTIONS,
    NEAR,
    THICKNESSES,
    Observation,
    SheetContext,
)
from hollow_glint.stand_ins.made_up_screen import made_up_screen
from hollow_glint.stand_ins.phone_camera import Shot, photographed
from tests.core.photo.test_screen_photo import picture

from .conftest import AXE, DESK, PHONE
from .photo_hand import the_corners

POCKET = {"width": 360, "height": 740}
POINTS = 2000
LIGHTS = ("day", "night")


@pytest.fixture(scope="module")
def sheet(chromium: Browser, program, tmp_path_factory) -> Path:
    """A sheet for one unit and lure by day and at night, made as a person makes it."""
    context = chromium.new_context(viewport=DESK, accept_downloads=True)
    page = context.new_page()
    page.goto(f"{program.url}/#/hole/1/trip/along")
    make = page.get_by_role("button", name="Make the pocket sheet")
    expect(page.get_by_text(re.compile("2 combinations: about"))).to_be_visible(timeout=30_000)
    # It is worked out politely, behind whatever other tests do meanwhile: that it comes is waited for, not how fast.
    with page.expect_download(timeout=600_000) as given:
        make.click()
        expect(page.get_by_test_id("waiting")).to_contain_text("%", timeout=60_000)
    path = tmp_path_factory.mktemp("phone") / given.value.suggested_filename
    given.value.save_as(path)
    expect(page.get_by_text(re.compile(r"Saved as kaldmere-[\d-]+\.html, \d+ kB"))).to_be_visible()
    context.close()
    return path


@pytest.fixture
def phone(chromium: Browser, sheet: Path):
    """Phones with no network that open the sheet from their storage; whatever goes wrong in it fails the test."""
    contexts, wrong = [], []

    def opened(theme: str = "rime", size=POCKET) -> Page:
        context = chromium.new_context(
            viewport=size, offline=True, has_touch=True, accept_downloads=True,
            color_scheme="dark" if theme == "lantern" else "light",
        )  # fmt: skip
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: wrong.append(str(error)))
        page.on("console", lambda said: said.type == "error" and wrong.append(said.text))
        page.goto(sheet.as_uri())
        expect(page.get_by_role("tab", name="Card")).to_be_visible()
        return page

    opened.wrong = wrong
    yield opened
    for context in contexts:
        context.close()
    assert wrong == []


def part(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name).tap()


@pytest.fixture(scope="module")
def card_at(chromium: Browser, sheet: Path):
    """What the program itself says at a depth in a light, worked out anew: nothing of the tables is in it."""
    page = chromium.new_page()
    page.goto(sheet.as_uri())
    told = page.evaluate("pocket.Sheet.read().then((one) => one.told)")
    page.close()
    profile = {name: value for name, value in told["along"]["units"][0].items() if name not in ("id", "version")}
    unit = unit_from_dict(profile)

    @cache
    def made(quarter: int, light: str, lure: Lure) -> HoleCard:
        known = KnownHole(
            quarter / 4.0, ice_thickness_m=told["day"]["ice_m"], slush_m=0.0, weed_height_m=0.0, clarity="stained",
            light=light, liveliness="some", bottom_kind="mud", species=told["day"]["species"], neighbours=(),
        )  # fmt: skip
        return hole_card(known, unit, lure)

    return made


def the_lure(program_page: Page, name: str) -> Lure:
    lures = program_page.evaluate("fetch('/api/lures').then((one) => one.json())")["lures"]
    (found,) = (one for one in lures if one["name"] == name)
    return Lure(**{key: value for key, value in found.items() if key not in ("id", "version")})


def test_it_says_what_the_program_says_at_two_thousand_points(open_page, phone, card_at):
    page = phone()
    lure = the_lure(open_page("/api/health"), page.evaluate("pocket.Sheet.read().then((s) => s.told.along.lures[0])"))
    rng = np.random.default_rng(2026)
    drawn = zip(rng.uniform(2.0, 25.0, POINTS), rng.integers(2, size=POINTS), strict=True)
    points = [{"depth_m": float(m), "light": int(k)} for m, k in drawn]
    marks = [
        {"shown": float(rng.uniform()), "colour": float(rng.uniform()), "thickness": str(rng.choice(THICKNESSES)),
         "motion": str(rng.choice(MOTIONS)), "change": str(rng.choice(CHANGES)), "near": str(rng.choice(NEAR)),
         "bottom": None if rng.uniform() < 0.4 else str(rng.choice(BOTTOMS))}
        for _ in points
    ]  # fmt: skip
    found = page.evaluate(
        """async ([points, marks]) => {
          const sheet = await pocket.Sheet.read();
          return points.map(({depth_m, light}, n) => {
            const c = sheet.combination({unit: 0, lure: 0, clarity: 0, light, company: 0});
            const {k, depth_m: near} = sheet.nearest(depth_m);
            const there = sheet.card(c, k);
            if (!there) return {near, card: null};
            const [colours, places] = sheet.shape(c, k);
            const seen = {...marks[n], shown_m: 0.25 * (1 + Math.floor(marks[n].shown * places)),
              colour: 1 + Math.floor(marks[n].colour * colours)};
            return {near, card: there.card, seen, calls: pocket.callsOf(sheet, c, k, seen)};
          });
        }""",
        [points, marks],
    )
    held = 0
    for point, told in zip(points, found, strict=True):
        assert abs(told["near"] - point["depth_m"]) <= 0.125 + 1e-9
        card = card_at(round(4 * told["near"]), LIGHTS[point["light"]], lure)
        for part_of in ("settings", "numbers", "gains"):
            for name, value in vars(getattr(card, part_of)).items():
                if value is None or isinstance(value, str):
                    assert told["card"][part_of][name] == value
                else:
                    assert told["card"][part_of][name] == pytest.approx(float(value), abs=5.1e-4), (name, point)
        assert told["card"]["face_depth_m"] == pytest.approx(card.face_depth_m, abs=5.1e-4)
        at = SheetContext(card.scene, card.unit, card.settings, lure, card.lure_depth_m)
        seen = {name: value for name, value in told["seen"].items() if name != "shown"}
        truth = {one.kind: one for one in call_sheet(at, Observation(**seen)).calls}
        for one in told["calls"]:
            chance = truth[one["kind"]].chance if one["kind"] in truth else 0.02
            assert one["chance"] == pytest.approx(chance, abs=0.021), (one, seen)
            if one["kind"] in truth:
                assert one["do"] == truth[one["kind"]].do
                held += 1
            if one["fish"] and one["kind"] in truth and truth[one["kind"]].length_m:
                shortest, longest = truth[one["kind"]].length_m
                assert (one["fish"]["shortest_m"], one["fish"]["longest_m"]) == pytest.approx(
                    (shortest, longest), abs=1e-4
                )
        assert all(one.chance < 0.045 for kind, one in truth.items() if kind not in {c["kind"] for c in told["calls"]})
    assert held > 2 * POINTS


def test_it_is_small_and_fetches_nothing_whatever_its_scripts_try(phone, sheet):
    assert sheet.stat().st_size < 600_000
    page = phone()
    tried = page.evaluate(
        """async () => {
          const tries = [() => fetch(location.href), () => fetch("http://127.0.0.1:9/")];
          const failed = [];
          for (const one of tries) await one().catch(() => failed.push("fetch"));
          const picture = new Image();
          const gone = new Promise((done) => { picture.onerror = () => done("picture"); });
          picture.src = "http://127.0.0.1:9/a.png";
          failed.push(await gone);
          const script = document.createElement("script");
          script.textContent = "window.slipped = true";
          document.body.append(script);
          return [failed, window.slipped ?? false];
        }"""
    )
    assert tried == [["fetch", "fetch", "picture"], False]
    assert phone.wrong and all("Content Security Policy" in one or "Not allowed" in one for one in phone.wrong)
    phone.wrong.clear()


@pytest.mark.parametrize(("theme", "size"), [("rime", POCKET), ("lantern", POCKET), ("lantern", PHONE)])
def test_every_part_is_legible_reachable_and_runs_off_no_side(phone, theme, size):
    page = phone(theme, size)
    page.evaluate(Path(AXE).read_text("utf-8"))
    for name in ("Day", "Card", "Call", "Notes", "More"):
        part(page, name)
        for opened in page.locator("details").all():
            opened.locator("summary").first.tap()
        found = page.evaluate("axe.run(document).then((o) => o.violations.map((v) => `${v.id} ${v.nodes[0].target}`))")
        assert found == [], name
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
        small = page.evaluate(
            """() => [...document.querySelectorAll("button, select, summary, [role=tab]")]
              .filter((one) => one.offsetParent && one.getBoundingClientRect().height < 44)
              .map((one) => one.textContent)"""
        )
        assert small == [], name


def test_the_card_follows_depth_and_light_in_feet_and_metres(phone):
    page = phone()
    part(page, "Card")
    card = page.get_by_test_id("pocket-card")
    field = page.get_by_label("Depth of the water")
    field.fill("33")
    expect(page.get_by_text(re.compile("Worked out for 32.8 ft"))).to_be_visible()
    expect(card).to_contain_text(re.compile(r"Dark.*gain [\d.]+"))
    page.get_by_label("Light").select_option("day")
    by_day = card.inner_text()
    page.get_by_label("Light").select_option("night")
    assert card.inner_text() != by_day
    page.get_by_role("button", name="Units: ft; turn to metres").tap()
    expect(field).to_have_value("10.1")
    page.get_by_role("button", name="Deeper").tap()
    expect(field).to_have_value("10.3")
    field.fill("80")
    expect(page.get_by_text(re.compile("Accepted: 2 to 25 m"))).to_be_visible()
    part(page, "Call")
    calls = page.get_by_test_id("pocket-calls")
    page.get_by_role("button", name="with the rod").tap()
    expect(calls).to_contain_text(re.compile("your lure", re.IGNORECASE))
    first = calls.inner_text()
    page.get_by_label("The mark shows at").fill("3")
    page.get_by_role("button", name="drifting").tap()
    expect(calls).not_to_contain_text(first)


def saved(page: Page, tmp_path: Path) -> Path:
    with page.expect_download() as given:
        page.get_by_role("button", name="Save the notes as a file").tap()
    path = tmp_path / given.value.suggested_filename
    given.value.save_as(path)
    return path


def test_notes_of_two_phones_are_kept_saved_and_merged_at_night(open_page, phone, tmp_path):
    first, second = phone(), phone("lantern")
    part(first, "Day")
    first.get_by_role("button", name="I stand here: place A").tap()
    part(first, "Notes")
    expect(first.get_by_label("Where")).to_have_value("Place A")
    first.get_by_role("button", name="Lines in").tap()
    first.get_by_role("button", name="Look").tap()
    first.get_by_role("button", name="Fish").tap()
    first.get_by_label("Its length").fill("14")
    first.get_by_role("button", name="Kept").tap()
    first.get_by_role("button", name="Bite").tap()
    first.get_by_role("button", name=re.compile("Take back: Bite")).tap()
    notes = first.get_by_role("list", name="Notes").get_by_role("listitem")
    expect(notes).to_have_count(3)
    expect(notes.first).to_contain_text(re.compile(r"Fish, at [\d.]+ ft, 14 in"))
    first.reload()  # the phone was switched off
    part(first, "Notes")
    expect(notes).to_have_count(3)
    part(second, "Notes")
    second.get_by_text("A hole drilled here").tap()
    second.get_by_label("Its name").fill("By the reeds")
    second.get_by_label(re.compile("Paces from")).fill("40")
    second.get_by_role("button", name="It is drilled").tap()
    expect(second.get_by_label("Where")).to_have_value("By the reeds")
    second.get_by_text("Depth and ice here").tap()
    second.get_by_label("Depth that you found").fill("24")
    second.get_by_role("button", name="Note the depth").tap()
    second.get_by_label("Ice that you measured").fill("9")
    second.get_by_role("button", name="Note the ice").tap()
    second.get_by_role("button", name="Look").tap()
    files = [saved(one, tmp_path) for one in (first, second)]
    assert len({json.loads(one.read_text("utf-8"))["phone"] for one in files}) == 2

    page = open_page("/#/hole/1/trip/along", viewport=DESK)
    region = page.get_by_role("region", name="Notes from a phone")
    for k, (path, brings) in enumerate(zip((*files, files[0]), ("2 notes of fish", "1 note of fish", ""), strict=True)):
        region.get_by_label("File of notes").set_input_files(path)
        told = region.get_by_test_id("phone-notes")
        expect(told).to_contain_text(brings or "Nothing new: all of it is here. 3 notes are here already.")
        if k == 1:
            expect(told).to_contain_text("1 sounding, 1 ice reading")
        region.get_by_role("button", name="Take them in").click()
        expect(region.get_by_role("status")).to_contain_text("Taken in" if brings else "Nothing new")
    # Both were on the ice on the day on which the demo's own outing still lasts: into that one they go.
    outings = page.evaluate("fetch('/api/log/file?kind=json').then((one) => one.json())")["outings"]
    mine = [one for one in outings if {"Place A", "By the reeds"} & {stay["hole"] for stay in one["stays"]}]
    assert len(mine) == 1
    stays = {one["hole"]: one for one in mine[0]["stays"]}
    assert {"Place A", "By the reeds"} <= set(stays)
    fish = [one for one in stays["Place A"]["happened"] if one["kind"] == "fish"]
    assert len(fish) == 1 and fish[0]["length_m"] == pytest.approx(0.3556) and fish[0]["kept"] is True


def test_a_photo_of_the_screen_goes_with_the_notes_and_is_read_at_home(open_page, phone, tmp_path):
    """One touch on the ice; kept when the phone is switched off, let go when it is taken back; its hour at home."""
    screen = made_up_screen(picture(), list(SIX_STEP.colours("lantern")), 12.0, np.random.default_rng(3))
    taken = photographed(screen, Shot(size=(1000, 750)), np.random.default_rng(3))
    path = tmp_path / "shot.jpg"
    path.write_bytes(taken.content)
    page = phone()
    part(page, "Notes")
    for _ in range(2):
        page.locator("input[type=file]").set_input_files(path)
        expect(page.get_by_text("The photo is kept with its hour")).to_be_visible()
    notes = page.get_by_role("list", name="Notes").get_by_role("listitem")
    expect(notes.filter(has_text="Photo of the screen")).to_have_count(2)
    page.get_by_role("button", name=re.compile("Take back: Photo")).first.tap()
    page.reload()
    part(page, "Notes")
    expect(notes.filter(has_text="Photo of the screen")).to_have_count(1)
    wrong = tmp_path / "list.txt"
    wrong.write_text("no photo")
    page.locator("input[type=file]").set_input_files(wrong)
    expect(page.get_by_text("list.txt is no photo that can be shown.")).to_be_visible()
    file = saved(page, tmp_path)
    told = json.loads(file.read_text("utf-8"))
    (letters,) = told["photos"].values()
    assert b"Exif" not in base64.b64decode(letters)

    page = open_page("/#/hole/1/trip/along", viewport=DESK)
    region = page.get_by_role("region", name="Notes from a phone")
    region.get_by_label("File of notes").set_input_files(file)
    photos = region.get_by_role("list", name="Photos of a screen").get_by_role("listitem")
    expect(photos).to_have_count(1)
    photos.get_by_role("button", name="Read this photo").click()
    page.get_by_role("button", name=re.compile("^Read the photo from ")).click()
    expect(the_corners(page)).to_be_visible(timeout=30_000)
    unit = page.get_by_label("Unit", exact=True)
    six = page.evaluate(
        "fetch('/api/units').then((one) => one.json())"
        ".then(({units}) => units.find((one) => one.ladders[0].steps.length === 6).name)"
    )
    unit.select_option(label=six)
    page.get_by_label("Depth at the foot").fill("39.4")
    page.get_by_label("From side to side").fill("60")
    page.get_by_label("From side to side").blur()
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_test_id("reading")).to_contain_text("Bottom", timeout=30_000)
    recordings = page.evaluate("fetch('/api/recordings').then((one) => one.json())")["recordings"]
    newest = max(recordings, key=lambda one: one["id"])
    noted = next(one["at"] for one in told["notes"] if one["kind"] == "photo" and not one["back"])
    begun, at = (datetime.fromisoformat(one) for one in (newest["started_at"], noted))
    assert (at - begun).total_seconds() == 60.0
