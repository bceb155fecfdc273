"""The Search step: from a look around to the school on the Bench, in both themes and sizes; its picture by keys."""

from __future__ import annotations

import math
import re
import time

import pytest
from playwright.sync_api import Page, expect

from .angler import Angler
from .conftest import DESK, PHONE

PACE = 4.0  # the water runs so much faster than life: a turn takes two seconds
SEED = 21  # a school of whitefish comes by slowly and straight


class Looked:
    """A Search page, and what is true in its water: the tests touch where a person would see the marks."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.look_id = ""
        page.on("request", self._hear)

    def _hear(self, request) -> None:
        found = re.search(r"/api/search/looks/([^/]+)/stream", request.url)
        self.look_id = found.group(1) if found else self.look_id

    def truth(self) -> dict:
        return self.page.evaluate(f"fetch('/api/search/looks/{self.look_id}/truth').then((one) => one.json())")

    def school(self) -> tuple[float, float]:
        """Bearing [rad] and way through the water [m] of the school's middle just now."""
        (group,) = [one for one in self.truth()["groups"] if one["kind"] == "school"]
        east, north, depth = (sum(part) / len(group["fish"]) for part in zip(*group["fish"], strict=True))
        return math.atan2(east, north), math.hypot(east, north, depth - 1.0)

    def touch(self, bearing: float, away: float, far: float = 20.0, tap: bool = False) -> None:
        face = self.page.get_by_test_id("round")
        face.scroll_into_view_if_needed()
        box = face.bounding_box()
        half = box["width"] / 2
        x = box["x"] + half + math.sin(bearing) * away / far * half
        y = box["y"] + half - math.cos(bearing) * away / far * half
        (self.page.touchscreen.tap if tap else self.page.mouse.click)(x, y)


def opened(open_page, seed: int = SEED, **options) -> Looked:
    page = open_page("/api/health", **options)
    looked = Looked(page)
    page.goto(page.url.split("/api")[0] + f"/?seed={seed}#/hole/1/search")
    expect(page.get_by_test_id("watch-says")).to_contain_text("Stay", timeout=20_000)
    return looked


def follow(looked: Looked, fixes: int, tap: bool = False) -> None:
    """Touch the school turn after turn until it was fixed so often."""
    page = looked.page
    take = page.get_by_role("button", name=re.compile("^(Follow it|Same school)"))
    done = 0
    for _ in range(4 * fixes):
        page.wait_for_timeout(2600)  # more than a turn
        with page.expect_response(lambda one: "/thing?" in one.url) as told:
            looked.touch(*looked.school(), tap=tap)
        kinds = told.value.json()["kinds"]
        # A person follows what the page takes for fish, not what stands there.
        if not kinds or kinds[0]["kind"] == "standing":
            continue
        (take.tap if tap else take.click)()
        done += 1
        if done == fixes:
            return
    raise AssertionError(f"the school showed {done} times only")


STORIES = [
    pytest.param(DESK, "rime", "feet", id="desk, day, feet"),
    pytest.param(DESK, "lantern", "metric", id="desk, night, metres"),
    pytest.param(PHONE, "lantern", "feet", id="phone, night, feet"),
    pytest.param(PHONE, "rime", "metric", id="phone, day, metres"),
]


@pytest.mark.parametrize(("viewport", "theme", "units"), STORIES)
def test_from_a_look_around_to_the_school_on_the_bench(open_page, viewport, theme, units):
    touch = viewport is PHONE
    page = open_page("/api/health", viewport=viewport, theme=theme, has_touch=touch)
    page.evaluate(f"localStorage.setItem('hollow-glint units', '{units}')")
    looked = Looked(page)
    page.goto(page.url.split("/api")[0] + f"/?seed={SEED}#/hole/1/search")
    # Arrive and watch: the clock says stay, until when, and why.
    says = page.get_by_test_id("watch-says")
    expect(says).to_contain_text("Stay", timeout=20_000)
    page.get_by_text("Why", exact=True).click()
    expect(page.get_by_text("schools an hour")).to_be_visible()
    # The school in one picture: what it can be, with reasons, and where along the ice.
    follow(looked, 1, touch)
    thing = page.get_by_test_id("thing")
    expect(thing).to_contain_text("along the ice")
    expect(thing).to_contain_text("paces")
    expect(page.get_by_role("region", name="Watch clock")).to_contain_text("1 school")
    expect(page.get_by_test_id("drilling")).to_have_count(0)
    # In more: its course and the hole, with the chance.
    follow(looked, 5, touch)
    unit = "ft" if units == "feet" else "m"
    expect(page.get_by_test_id("course")).to_contain_text(re.compile(rf"It swims towards .*\d+\s+{unit} a minute"))
    hole = page.get_by_test_id("drilling")
    expect(hole).to_contain_text(re.compile(r"Drill here: \d+ in 100"))
    expect(hole).to_contain_text(re.compile(r"\d+ " + unit + r" at (half past )?\d+"))
    # What was told is what is true: the course within sight of the school's own.
    (school,) = [one for one in looked.truth()["groups"] if one["kind"] == "school"]
    told = page.get_by_test_id("course").inner_text()
    hour = int(re.search(r"towards (?:half past )?(\d+)", told).group(1)) + (0.5 if "half past" in told else 0.0)
    apart = (30.0 * hour - school["heading_deg"] + 180.0) % 360.0 - 180.0
    assert abs(apart) < 40.0, (told, school["heading_deg"])
    # Walk: the clock runs.
    page.get_by_role("button", name="Walk there and drill").click()
    expect(page.get_by_test_id("walk")).to_contain_text("paces")
    expect(page.get_by_test_id("walk")).to_contain_text(re.compile(r"[1-9]:\d\d of|0:[1-9]\d of"))
    page.get_by_role("button", name="Be there now").click()
    # The Bench in the same water: as deep as the look's own bed there, and when the school is due.
    expect(page).to_have_url(re.compile(rf"/bench/drilled/{SEED}_"))
    expect(page.get_by_test_id("due")).to_contain_text(re.compile("school should come by|About now"))
    expect(page.get_by_test_id("lure-depth")).to_contain_text(unit)
    assert looked.page.evaluate("document.documentElement.scrollWidth") <= viewport["width"]


def strike(page: Page, bench) -> None:
    """Fish for the school as one does: lift slowly while one looks, and set when one has the lure in its mouth."""
    most, hooked = 0, page.get_by_text(re.compile("^Hooked"))
    base = page.url.split("/#")[0].split("/?")[0]
    angler = Angler(page)
    left_alone, was_hooked, set_at = 0, False, 0.0
    for _ in range(1500):
        # Asked beside the page: on a starved machine it may just be taking up its bench anew, which is no fault of its.
        frame = page.request.get(f"{base}/api/benches/{bench()}/frame")
        if not frame.ok:
            page.wait_for_timeout(200)
            continue
        fish = frame.json()["fish"]
        most = max(most, len(fish))
        moods = {one["mood"] for one in fish}
        if "mouthing" in moods and time.monotonic() - set_at > 1.0:  # once a bite
            angler.set_hook()
            set_at = time.monotonic()
        elif "hooked" in moods and not was_hooked:
            was_hooked = True
            expect(hooked).to_be_visible()
        if was_hooked and most >= 3:
            break
        looked_at = bool(moods & {"curious", "following"})
        left_alone = 0 if looked_at else left_alone + 1
        angler.lift(looked_at)
        if left_alone == 40:
            page.keyboard.press("l")  # back to where the card has it
        page.wait_for_timeout(30)
    angler.lift(on=False)
    assert most >= 3, f"a school comes, not {most} fish"
    assert was_hooked


def test_by_hand_one_thumb_gets_course_and_clock(open_page):
    page = open_page(f"/?seed={SEED}#/hole/1/search", viewport=PHONE, has_touch=True)
    page.get_by_role("button", name="By hand").tap()
    looked = Looked(page)
    looked.touch(math.radians(45.0), 14.0, tap=True)
    expect(page.get_by_test_id("thing")).to_contain_text("half past 1")
    page.wait_for_timeout(3000)
    looked.touch(math.radians(35.0), 14.0, tap=True)
    expect(page.get_by_test_id("course")).to_contain_text("It swims towards")
    expect(page.get_by_role("button", name="Walk there and drill")).to_have_count(0)
    # A wrong touch is taken back.
    page.get_by_text(re.compile("2 fixes")).click()
    page.get_by_role("button", name="Take fix 2 back").tap()
    expect(page.get_by_test_id("course")).to_have_count(0)
    # How one's own unit stands is said under Settings, and reckoned with.
    page.get_by_role("tab", name="Settings").tap()
    page.get_by_label("Twelve points to").fill("90")
    page.get_by_label("Twelve points to").blur()
    page.get_by_role("tab", name="Look").tap()
    looked.touch(0.0, 14.0, tap=True)
    expect(page.get_by_test_id("thing")).to_contain_text("12 o'clock")
    expect(page.get_by_test_id("thing")).to_contain_text("paces, E")


def test_the_picture_by_keys_and_unrolled(open_page):
    looked = opened(open_page)
    page = looked.page
    face = page.get_by_test_id("round")
    face.focus()
    for _ in range(10):
        page.keyboard.press("ArrowRight")
    expect(face).to_have_accessible_name(re.compile("1 o'clock, .* through the water"))
    with page.expect_response(lambda one: "/thing?" in one.url) as told:
        page.keyboard.press("Enter")
    assert "bearing_deg=30" in told.value.url
    page.get_by_role("button", name="Unrolled").click()
    box = face.bounding_box()
    # Twelve stands in the middle, six at both ends: a touch at three quarters of the width is three o'clock.
    with page.expect_response(lambda one: "/thing?" in one.url) as told:
        page.mouse.click(box["x"] + 0.75 * box["width"], box["y"] + 0.5 * box["height"])
    assert abs(float(re.search(r"bearing_deg=([\d.]+)", told.value.url).group(1)) - 90.0) < 1.0
    assert abs(float(re.search(r"range_m=([\d.]+)", told.value.url).group(1)) - 10.0) < 0.2
    # Along the ice the same touch is heard further off: down as well as out.
    page.get_by_role("button", name="Along the ice").click()
    with page.expect_response(lambda one: "/thing?" in one.url) as told:
        page.mouse.click(box["x"] + 0.75 * box["width"], box["y"] + 0.5 * box["height"])
    assert float(re.search(r"range_m=([\d.]+)", told.value.url).group(1)) > 10.0


def test_the_truth_stands_beside_the_picture_and_the_same_water_waits(open_page):
    looked = opened(open_page)
    page = looked.page
    page.get_by_role("button", name="Show the truth").click()
    above = page.get_by_role("img", name="The water from above, as it truly is")
    expect(above).to_be_visible()
    expect(page.locator("figcaption")).to_contain_text("school")
    before, was = looked.truth(), looked.look_id
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("The log")
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Search").click()
    expect(page.get_by_test_id("watch-says")).to_contain_text("Stay", timeout=20_000)
    while looked.look_id == was:
        page.wait_for_timeout(50)
    after = looked.truth()
    assert after["standing"] == before["standing"] and after["time_s"] >= before["time_s"]


def test_listening_further_and_a_quarter_only(open_page):
    looked = opened(open_page)
    page = looked.page
    page.get_by_role("tab", name="Settings").click()
    with page.expect_response(lambda one: one.url.endswith("/hang")):
        page.get_by_role("button", name="98 ft").click()
    with page.expect_response(lambda one: one.url.endswith("/hang")) as told:
        page.get_by_role("button", name="Look only a quarter round what was touched").click()
    hang = told.value.json()["hang"]
    assert hang["range_m"] == 30 and (hang["from_deg"], hang["to_deg"]) == (315.0, 45.0)
    expect(page.get_by_role("button", name="Look all round again")).to_be_visible()


def test_who_lives_here_in_one_list(open_page):
    page = open_page(f"/?seed={SEED}#/hole/1/search")
    expect(page.get_by_test_id("watch-says")).to_contain_text("Stay", timeout=20_000)
    here = page.get_by_role("region", name="Who lives here")
    page.wait_for_timeout(6000)  # two turns
    here.get_by_role("button", name=re.compile("List")).click()
    stands = here.get_by_role("button", name=re.compile("Something that stands")).first
    expect(stands).to_be_visible()
    stands.click()
    expect(page.get_by_test_id("thing")).to_contain_text("Something that stands")


def test_a_thing_of_a_lake_is_kept_and_found_again(open_page):
    """Round a hole of the lake: what is kept stands on the Trip's map, in the file, and with its way from elsewhere."""
    page = open_page(f"/?seed={SEED}#/hole/1/search")
    looked = Looked(page)
    page.get_by_label("Look from").select_option("Kaldmere: Lantern point")
    expect(page.get_by_test_id("watch-says")).to_contain_text("Stay", timeout=20_000)
    kept = page.get_by_role("region", name="Kept on the lake")
    expect(kept).to_contain_text("Touch a thing first")
    for _ in range(20):
        page.wait_for_timeout(1200)
        with page.expect_response(lambda one: "/thing?" in one.url) as told:
            looked.touch(*looked.school())
        if told.value.json()["fix"]:
            break
    kept.get_by_label("It is").select_option("brush")
    kept.get_by_label("Note").fill("Where the school passed")
    kept.get_by_role("button", name="Keep").click()
    expect(kept.get_by_role("status")).to_have_text("brush is on the map of Kaldmere.")
    expect(kept).to_contain_text(re.compile(r"brush, Where the school passed:\s+\d+ ft at"))
    expect(kept).to_contain_text("thin ice: keep away")
    # Weeks later, from another hole.
    page.get_by_label("Look from").select_option("Kaldmere: the landing")
    expect(kept).to_contain_text(re.compile(r"brush, Where the school passed:\s+\d+ ft at .* paces"))
    with page.expect_download() as file:
        kept.get_by_role("link", name="GPX").click()
    assert "Where the school passed" in file.value.path().read_text("utf-8")


def test_how_many_looks_cover_the_lake_and_whether_the_picture_is_straight(open_page):
    page = open_page(f"/?seed={SEED}#/hole/1/search")
    page.get_by_label("Look from").select_option("Kaldmere: Lantern point")
    page.get_by_role("button", name="How many looks cover the lake").click()
    cover = page.get_by_role("region", name="Fewer holes")
    expect(cover).to_contain_text(re.compile(r"\d+ looks of 66 ft all round cover\s+Kaldmere"))
    expect(cover).to_contain_text(re.compile(r"it takes [\d,]+ holes"))
    expect(cover.get_by_role("listitem")).to_have_count(3)
    # By hand: a known thing at 40 degrees is seen at 62.
    page.get_by_role("button", name="By hand").click()
    page.get_by_role("tab", name="Settings").click()
    for name, value in (("It is at", "40"), ("The picture has it at", "62")):
        page.get_by_label(name).fill(value)
        page.get_by_label(name).blur()
    page.get_by_role("button", name="Check", exact=True).click()
    expect(page.get_by_test_id("heading")).to_contain_text("The picture is turned 22° clockwise")
    page.get_by_role("button", name="Correct it here").click()
    expect(page.get_by_label("Twelve points to")).to_have_value("338")


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
def test_a_drill_on_a_picture_that_turns(open_page, viewport):
    page = open_page("/#/hole/1/read/drills", viewport=viewport)
    page.get_by_role("button", name="Which of three holes").first.click()
    expect(page.get_by_role("img", name=re.compile("^Picture, First"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("^Picture, Three turns later"))).to_be_visible()
    expect(page.get_by_role("group", name="Answers").get_by_role("button")).to_have_count(3)
    page.keyboard.press("2")
    expect(page.get_by_test_id("told")).to_contain_text("further on its way")
    expect(page.get_by_role("button", name="Show me")).to_have_count(0)
    assert page.evaluate("document.documentElement.scrollWidth") <= viewport["width"]


def test_the_whole_way_from_the_first_look_to_the_strike(open_page):
    """One water, one seed: look, follow, drill where the page says, walk, and hook one of that school on the Bench."""
    page = open_page("/api/health")
    # Someone with an auger that runs: the sooner the hole is ready, the surer the school still comes past it.
    page.evaluate("""localStorage.setItem('hollow-glint search', JSON.stringify({ready_s: 30}))""")
    looked = Looked(page)
    benches: list[str] = []
    page.on("request", lambda one: benches.extend(re.findall(r"/api/benches/([^/]+)/stream", one.url)))
    page.goto(page.url.split("/api")[0] + f"/?seed={SEED}#/hole/1/search")
    expect(page.get_by_test_id("watch-says")).to_contain_text("Stay", timeout=20_000)
    follow(looked, 6)
    said = page.get_by_test_id("drilling")
    expect(said).to_contain_text("Drill here")
    assert int(re.search(r"(\d+) in 100", said.inner_text()).group(1)) >= 80, said.inner_text()
    page.get_by_role("button", name="Walk there and drill").click()
    page.get_by_role("button", name="Be there now").click()
    expect(page.get_by_test_id("due")).to_be_visible()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    strike(page, lambda: benches[-1])
