"""The Trip step: the night before, as a guide lives it, in both themes and sizes; its map by hand, keys and touch."""

from __future__ import annotations

import json
import re
from pathlib import Path

import gpxpy
import icalendar
import pytest
from playwright.sync_api import Page, expect

from .conftest import DESK, PHONE

# How much of the map is in a colour of the page's style sheet.
SHARE = """([canvas, name]) => {
  const probe = document.createElement('i');
  probe.style.color = `var(${name})`;
  document.body.append(probe);
  const wanted = getComputedStyle(probe).color.match(/[\\d.]+/g).slice(0, 3).map(Number);
  probe.remove();
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
  let found = 0;
  for (let i = 0; i < data.length; i += 4)
    if (wanted.every((one, k) => Math.abs(data[i + k] - one) < 3)) found++;
  return found / (data.length / 4);
}"""


def opened(open_page, part: str = "day", **options) -> Page:
    page = open_page(f"/#/hole/1/trip/{part}", **options)
    expect(page.get_by_role("button", name=re.compile(r"^Place [A-Z]: number"))).to_have_count(6)
    return page


def part(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def walk(page: Page) -> list[str]:
    """The places in the order in which they are walked, by the table."""
    legs = page.get_by_role("list", name="The walk").get_by_role("listitem")
    expect(legs.last).to_contain_text("Back at")
    return [one for leg in legs.all() if (one := leg.locator("strong").inner_text()) and not one.startswith("Back")]


def middle(locator) -> tuple[float, float]:
    box = locator.bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, locator, to: tuple[float, float]) -> None:
    page.mouse.move(*middle(locator))
    page.mouse.down()
    page.mouse.move(*to, steps=8)
    page.mouse.up()


@pytest.fixture(autouse=True)
def _as_seeded(program):
    """Each test begins with the demo's day: what the ones before it planned is gone."""
    yield
    for _ in range(10):  # a page that went may still be keeping its own
        _, day = program.ask("GET", "/api/lakes/1/day")
        fields = {name: value for name, value in day.items() if name not in ("id", "version")}
        etag = {"If-Match": f'"{day["version"]}"'}
        status, _ = program.ask("PUT", "/api/lakes/1/day", fields | {"places": [], "people": 4}, etag)
        if status == 200:
            return
    raise AssertionError("the day could not be put back")


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
@pytest.mark.parametrize(("theme", "system"), [("rime", "feet"), ("lantern", "metric")])
def test_the_night_before(open_page, viewport, theme, system, tmp_path: Path):
    page = open_page("/#/hole/1/trip", viewport=viewport, theme=theme)
    if system == "metric":
        page.get_by_role("button", name=re.compile("Change to metres")).click()
    deep, far = ("ft", r"ft|mi") if system == "feet" else ("m", "m|km")

    # Kaldmere from above: the band solid, hatched where it is a guess, an edge, her own soundings.
    expect(page.get_by_role("heading", level=1)).to_have_text("Kaldmere")
    expect(page.get_by_role("button", name=re.compile(r"^Place [A-Z]: number"))).to_have_count(6)
    canvas = page.get_by_test_id("lake-map").locator("canvas").element_handle()
    assert page.evaluate(SHARE, [canvas, "--band"]) > 0.04
    key = page.get_by_role("list", name="What the map shows")
    for words in (f"{deep}, sure", "a guess", "edge, teeth downhill", "dashed where unsure"):
        expect(key).to_contain_text(words)

    # Early ice, whitefish, four people, from nine to three, from the landing.
    expect(page.get_by_role("button", name="First ice")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_label("Fish", exact=True)).to_have_value("whitefish")
    expect(page.get_by_role("group", name="People")).to_contain_text("4")
    expect(page.get_by_label("From", exact=True)).to_have_value("09:00")
    expect(page.get_by_label("Back by")).to_have_value("15:00")
    expect(page.get_by_text(re.compile(r"^Sun from \d+:\d\d to 12:18"))).to_be_visible()
    expect(page.get_by_label("The band")).to_contain_text("Common practice")

    # Six places in walking order, each with its way and its reason.
    part(page, "Walk")
    expect(page.get_by_role("list", name="The walk").get_by_role("listitem")).to_have_count(7)
    before = walk(page)
    assert sorted(before) == list("ABCDEF")
    legs = page.get_by_role("list", name="The walk")
    expect(legs.get_by_text(re.compile(rf"[\d.]+ ({far})\s+[NESW]+\s+\d+°, [\d.]+ min"))).to_have_count(7)
    expect(legs.get_by_text(re.compile(r"in the band with a chance of \d+ percent"))).to_have_count(6)
    expect(legs).to_contain_text("timber")
    expect(legs).to_contain_text(re.compile("edge", re.I))
    ways = legs.inner_text()

    # She drags one out and another in, and the day is added up anew.
    sheet = page.get_by_test_id("lake-map")
    sheet.scroll_into_view_if_needed()
    box = sheet.bounding_box()
    drag(page, page.get_by_role("button", name=re.compile(f"^Place {before[0]}:")), (box["x"] + 30, box["y"] + 30))
    expect(page.get_by_role("button", name=re.compile(f"^Place {before[0]}: left out"))).to_be_visible()
    expect(page.locator(".said").first).to_contain_text("5 places")
    page.get_by_role("button", name=re.compile("^Take in another place")).last.click()
    expect(page.locator(".said").first).to_contain_text("6 places")
    after = walk(page)
    assert "G" in after and before[0] not in after and legs.inner_text() != ways

    # The big battery is dead by half past one, unless; the second unit's cable; which screens to hide.
    seen_to = page.get_by_role("list", name="To see to before you go")
    expect(seen_to).to_contain_text(re.compile(r"Big lead At 1 A .* it is dead at 13:33"))
    seen_to.get_by_role("button", name=re.compile("Big lead")).click()
    unit = page.get_by_role("region", name="Unit 1")
    expect(unit).to_contain_text(re.compile(r"Turned down to 10 percent of its light after sunset \(12:18\).*15:0\d"))
    expect(unit).to_contain_text("With the spare (Small lithium) it lives until 18:0")
    unit.get_by_role("group", name="Light after sunset").get_by_role("button", name="lowest").click()
    expect(unit).to_contain_text("it likely lives through the day")
    unit.get_by_role("group", name="Light after sunset").get_by_role("button", name="as it is").click()
    part(page, "Rig")
    failed = re.compile(r"Second unit's cable failed its rig test on Dec 3.*\s+and was not retested")
    expect(page.locator(".failed")).to_contain_text(failed)
    screens = page.get_by_role("region", name="Screens to keep")
    expect(screens).to_contain_text("Hide for the day:")
    expect(screens.get_by_role("listitem").first).to_contain_text("the last minutes, running")

    # One page on paper, waypoints for the handset, dates for the calendar.
    assert pages_of(page) == 1
    part(page, "Walk")
    with page.expect_download() as given:
        page.get_by_role("button", name="Waypoints, GPX").click()
    given.value.save_as(tmp_path / "day.gpx")
    points = gpxpy.parse((tmp_path / "day.gpx").read_text()).waypoints
    assert [one.name for one in points] == [f"{n} {name}" for n, name in enumerate(walk(page), 1)]
    with page.expect_download() as given:
        page.get_by_role("button", name="Calendar, ICS").click()
    given.value.save_as(tmp_path / "day.ics")
    events = icalendar.Calendar.from_ical((tmp_path / "day.ics").read_bytes()).walk("VEVENT")
    assert [str(one["summary"]) for one in events][:2] == ["Kaldmere", "Charge Big lead"]

    # On the ice: a hole that is drilled is one more sounding, and the map mends itself.
    first = walk(page)[0]
    teaches = page.get_by_role("list", name="Where one more hole teaches most")
    asked = teaches.inner_text()
    page.get_by_role("button", name=f"Drilled here at {first}").click()
    page.get_by_label(f"Depth, {deep}").fill("41" if system == "feet" else "12.5")
    with page.expect_response(re.compile("/map")):
        page.get_by_role("button", name="Put it on the map").click()
    deeper = re.compile(rf"^Place {first}: .*about (3[7-9]|4[0-4]|1[123])[.\d]* {deep} deep")
    expect(page.get_by_role("button", name=deeper)).to_be_visible()
    expect(teaches).not_to_have_text(asked)
    part(page, "Lake")
    page.get_by_text("Depths measured by hand").click()
    newest = page.get_by_role("button", name=re.compile(r"^Remove the depth (41|12\.5)")).first
    expect(newest).to_be_visible()
    newest.click()  # for whoever comes next
    expect(page.get_by_text("The depth is removed.")).to_be_visible()


def pages_of(page: Page) -> int:
    """How many sheets the day takes on paper."""
    return len(re.findall(rb"/Type\s*/Page[^s]", page.pdf(format="A4")))


def test_the_map_moves_under_the_hand_the_wheel_and_the_keys(open_page):
    page = opened(open_page)
    sheet = page.get_by_test_id("lake-map")
    place = page.get_by_role("button", name=re.compile("^Place A"))
    x, y = middle(place)
    box = sheet.bounding_box()
    page.mouse.move(box["x"] + 40, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] + 100, box["y"] + 90, steps=5)
    page.mouse.up()
    assert middle(place) == pytest.approx((x + 60, y + 30), abs=1.5)
    page.mouse.move(x + 60, y + 30)
    page.mouse.wheel(0, -200)  # nearer, about the place under the pointer
    assert middle(place) == pytest.approx((x + 60, y + 30), abs=2.0)
    other = page.get_by_role("button", name=re.compile("^Place C"))
    page.get_by_role("button", name=re.compile("from above, north up")).focus()
    page.keyboard.press("0")
    page.wait_for_timeout(100)
    assert middle(place) == pytest.approx((x, y), abs=1.5)
    apart = middle(place)[0] - middle(other)[0]
    page.keyboard.press("+")
    page.wait_for_timeout(100)
    assert middle(place)[0] - middle(other)[0] == pytest.approx(1.3 * apart, rel=0.02)
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("0")


def test_a_place_goes_by_keys_too_and_every_step_is_planned(open_page):
    page = opened(open_page, "walk")
    place = page.get_by_role("button", name=re.compile("^Place A"))
    x, _ = middle(place)
    place.focus()
    for _ in range(3):
        with page.expect_response(re.compile("/plan")):
            page.keyboard.press("ArrowRight")
    expect(place).to_be_focused()
    assert middle(place)[0] > x + 4
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name=re.compile("^Place A: left out"))).to_be_visible()
    page.get_by_role("button", name="Take in A", exact=True).click()
    expect(page.get_by_role("button", name=re.compile("^Place A: number"))).to_be_visible()


def test_two_fingers_bring_it_nearer(open_page):
    page = opened(open_page, viewport=PHONE, has_touch=True)
    place, other = (page.get_by_role("button", name=re.compile(f"^Place {one}")) for one in "AD")
    box = page.get_by_test_id("lake-map").bounding_box()
    apart = abs(middle(place)[0] - middle(other)[0])
    x, y = box["x"] + 120, box["y"] + 40
    cdp = page.context.new_cdp_session(page)
    for kind, gap in (("touchStart", 40), ("touchMove", 50), ("touchMove", 60), ("touchEnd", 0)):
        points = [{"x": x - gap, "y": y, "id": 0}, {"x": x + gap, "y": y, "id": 1}] if gap else []
        cdp.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})
    page.wait_for_timeout(150)
    assert abs(middle(place)[0] - middle(other)[0]) == pytest.approx(1.5 * apart, rel=0.05)


def test_a_touched_place_says_its_depth_and_can_be_gone_to(open_page):
    page = opened(open_page)
    sheet = page.get_by_test_id("lake-map")
    box = sheet.bounding_box()
    page.mouse.click(box["x"] + 8, box["y"] + 300)
    here = page.locator(".here")
    expect(here).to_contain_text(re.compile(r"Land\.\s+[\d.]+ ft\s+[NESW]+\s+of where you start"))
    x, y = middle(page.locator(".hole").nth(2))  # the deepest one
    page.mouse.click(x + 24, y)
    expect(here).to_contain_text(re.compile(r"5\d(\.\d)? ft, give or take .* in the band with 0 percent"))
    here.get_by_role("button", name="Go there").click()
    expect(page.get_by_role("button", name=re.compile("^Place G: number"))).to_be_visible()


def test_a_file_with_three_wrong_lines_says_which_and_leaves_nothing_when_it_is_refused(open_page, tmp_path: Path):
    page = opened(open_page, "lake")
    rows = [f"{17.0 + k * 1e-6:.6f};{66.6 + k * 1e-7:.6f};{5 + k % 7}" for k in range(5000)]
    rows[10], rows[20], rows[30] = "17;66.6;deep", "17;99;4", "17"
    file = tmp_path / "survey.csv"
    file.write_text("lon;lat;depth (ft)\n" + "\n".join(rows))
    known = page.get_by_role("heading", name=re.compile(r"^\d+ depths known"))
    before = known.inner_text()
    page.get_by_label("File of depths").set_input_files(file)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_label("depths in")).to_have_value("ft")
    dialog.get_by_role("button", name="Take it in").click()
    expect(dialog).to_contain_text("4997 lines can be taken, 3 cannot. Nothing was taken in.")
    for words in ("Line 12: depth in ft is 'deep'", "Line 22: latitude is 99", "Line 32: it has 1 columns"):
        expect(dialog).to_contain_text(words)
    dialog.get_by_role("button", name="Take nothing in").click()
    expect(known).to_have_text(before)
    page.get_by_label("File of depths").set_input_files(file)
    dialog.get_by_role("button", name="Take it in").click()
    dialog.get_by_role("button", name="Take the other 4997 in").click()
    dialog.get_by_role("button", name="See the map").click()
    expect(known).to_have_text(f"{int(before.split()[0]) + 4997} depths known")
    page.get_by_role("button", name="Remove the soundings of survey.csv").click()
    expect(known).to_have_text(before)


def test_what_two_tabs_plan_is_shown_to_choose(open_page):
    first, second = opened(open_page), opened(open_page)
    more = "More people"
    first.get_by_role("button", name=more).click()
    with first.expect_response(lambda answer: answer.request.method == "PUT"):
        pass
    second.get_by_role("button", name="Less people").click()
    both = second.get_by_role("alert", name="Both versions")
    expect(both).to_contain_text("This day was changed elsewhere")
    open_page.wrong.clear()  # the browser notes the refusal that was asked for
    both.get_by_role("button", name="Keep mine").click()
    expect(both).to_have_count(0)
    expect(second.get_by_role("group", name="People")).to_contain_text("3")
    second.get_by_role("button", name=more).click()
    with second.expect_response(lambda answer: answer.request.method == "PUT"):
        pass


def test_the_page_draws_only_when_something_moves(open_page):
    page = opened(open_page)
    page.wait_for_timeout(800)
    canvas = page.get_by_test_id("lake-map").locator("canvas")
    before = canvas.get_attribute("data-frames")
    page.wait_for_timeout(500)
    assert canvas.get_attribute("data-frames") == before


def test_a_panel_that_is_hidden_is_gone_until_it_is_shown_again(open_page):
    page = opened(open_page)
    page.get_by_role("button", name="Settings").click()
    page.get_by_text("Panels in sight").click()
    page.get_by_role("button", name="Power", exact=True).click()
    expect(page.get_by_role("tab", name="Power")).to_have_count(0)
    page.reload()
    expect(page.get_by_role("tab", name="Walk")).to_be_visible()
    expect(page.get_by_role("tab", name="Power")).to_have_count(0)
    page.goto(page.url.split("#")[0] + "#/hole/1/trip/power")  # an address still leads there
    expect(page.get_by_role("tab", name="Power")).to_have_attribute("aria-selected", "true")
    page.get_by_role("button", name="Settings").click()
    page.get_by_text("Panels in sight").click()
    page.get_by_role("button", name="Power", exact=True).click()
    page.get_by_role("tab", name="Day", exact=True).click()
    expect(page.get_by_role("tab", name="Power")).to_be_visible()


def test_what_a_unit_must_have_is_worked_out_from_ones_own_holes(open_page):
    page = opened(open_page, "rig")
    page.get_by_text("What a unit must have for your waters").click()
    page.get_by_role("button", name="Work it out").click()
    found = page.get_by_role("list", name="What a unit must have").get_by_role("listitem")
    expect(found).to_have_count(12, timeout=60_000)
    expect(found.filter(has_text="narrow beam")).to_contain_text(re.compile("lost below|hide"))
    expect(found.filter(has_text="follows the bottom")).to_contain_text("One-beam trail unit has it")
    page.get_by_role("button", name="Compare cones").click()
    expect(page.get_by_role("row")).to_have_count(9)


def test_a_water_with_no_map_has_one_after_three_depths(open_page):
    page = opened(open_page, "lake")
    page.get_by_role("button", name="Another lake").click()
    page.get_by_label("What the water is called").fill("New pond")
    for k, deep in enumerate(("6", "11", "twelve")):
        page.get_by_label("Depth there").nth(k).fill(deep)
    expect(page.get_by_text("Depth there: type a number.")).to_be_visible()
    page.get_by_label("Depth there").nth(2).fill("17")
    expect(page.get_by_text(re.compile(r"By these, that way:\s+at 20 paces about \d"))).to_be_visible()
    page.get_by_role("button", name="Draw it").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("New pond")
    expect(page.get_by_text(re.compile("Say where the lake lies"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Place A: number"))).to_be_visible()
    part(page, "Lake")
    expect(page.get_by_role("heading", name="4 depths known")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Remove New pond")).click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Kaldmere")


def test_two_changes_on_a_slow_line_are_kept_one_after_the_other(open_page, program):
    """A second that overtakes the first would be refused as of a version that is gone, and shown as someone else's."""
    page = opened(open_page)
    under_way = []

    def slowly(route):
        if route.request.method == "PUT":
            under_way.append(route.request.post_data_json["people"])
            page.wait_for_timeout(1500)
        route.continue_()

    page.route("**/api/lakes/1/day", slowly)
    before = program.ask("GET", "/api/lakes/1/day")[1]["people"]
    more = page.get_by_role("group", name="People").get_by_role("button", name=re.compile("^More"))
    for _ in range(2):
        more.click()
        page.wait_for_timeout(700)  # longer than the page waits before it keeps, shorter than keeping takes
    expect(page.get_by_text("Keeping the day…")).to_have_count(0, timeout=20_000)
    assert under_way == [before + 1, before + 2]
    assert program.ask("GET", "/api/lakes/1/day")[1]["people"] == before + 2
    expect(page.get_by_role("button", name="Keep mine")).to_have_count(0)


@pytest.mark.parametrize(("viewport", "theme"), [(DESK, "rime"), (PHONE, "lantern")], ids=["desk", "phone"])
def test_places_go_to_a_friend_with_what_is_left_out_said_and_come_back_without_a_trace(
    open_page, viewport, theme, tmp_path
):
    page = open_page("/#/hole/1/trip/lake", viewport=viewport, theme=theme)
    share = page.get_by_role("region", name="Places and friends")
    told = share.get_by_test_id("shared")
    # Rounded, until somebody wants otherwise: the ground stays.
    expect(told).to_contain_text("0 soundings go out")
    expect(told).to_contain_text("their pattern would tell where they are")
    expect(told).to_contain_text(re.compile(r"within 1173 ft|within 358 m"))
    share.get_by_role("button", name="Hidden").click()
    expect(told).to_contain_text("Positions are hidden")
    expect(share.get_by_role("link", name="Places as GPX")).to_have_count(0)
    share.get_by_role("button", name="As they are").click()
    expect(told).not_to_contain_text("0 soundings go out")
    expect(told).to_contain_text("What was caught and noted there")
    share.get_by_label("Holes").uncheck()
    expect(told).to_contain_text("0 holes")
    share.get_by_label("Holes").check()
    with page.expect_download() as loading:
        share.get_by_role("link", name="File of places").click()
    file = tmp_path / "places.json"
    loading.value.save_as(file)
    assert len(json.loads(file.read_text())["holes"]) >= 3
    # One's own file comes home without a trace; what is no file of places is refused in words.
    share.get_by_label("File of places", exact=True).set_input_files(file)
    expect(share).to_contain_text("all of it was here already")
    file.write_text('{"shopping": "bread"}')
    share.get_by_label("File of places", exact=True).set_input_files(file)
    expect(share.get_by_role("alert")).to_contain_text("this is not a file of places")
    open_page.wrong.clear()


def test_of_a_lake_that_nobody_placed_only_names_and_depths_can_go_out(open_page, program):
    lake = program.ask("POST", "/api/lakes", {"name": "Nowhere tarn"})[1]["id"]
    try:
        page = open_page("/#/hole/1/trip/lake")
        page.get_by_role("combobox", name="Lake").select_option(f"{lake}")
        share = page.get_by_role("region", name="Places and friends")
        expect(share).to_contain_text("Nobody has said yet where on earth this lake lies")
        expect(share.get_by_test_id("shared")).to_contain_text("Positions are hidden")
        expect(share.get_by_role("link", name="Places as GPX")).to_have_count(0)
    finally:
        program.ask("DELETE", f"/api/lakes/{lake}")
