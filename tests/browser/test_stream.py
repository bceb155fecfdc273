"""A bench's stream in the page, with a program that is made up: commands folded together, drops, runs that end."""

from __future__ import annotations

from typing import Any

import pytest

from .test_modules import MODULES

# A page of its own, with a fetch and an event source that do as a test says. Time stands still but for `clock`.
STAGE = """
window.asked = [];       // every request: method, path, body
window.answers = [];     // resolvers of commands that are on their way
window.status = 201;     // what opening a bench is answered with
window.refuse = null;    // what a command is refused with
window.sources = [];
window.reading = 0;      // requests whose body is being read: on a busy machine that takes its time
const bench = () => ({ id: "b" + (window.asked.filter((one) => one.path === "/api/benches").length), run: false,
  settings: { gain: 10, range_m: 9, auto_range: false }, scene: { tilt_deg: 0 }, lure_depth_m: 1,
  unit: { gain: { minimum: 0, maximum: 12, step: 1 } } });
const said = (status, body) => new Response(body === null ? null : JSON.stringify(body), { status,
  headers: { "Content-Type": status < 400 ? "application/json" : "application/problem+json" } });
window.fetch = async (request) => {
  window.reading++;
  const path = new URL(request.url).pathname, text = await request.text();
  window.reading--;
  const body = text ? JSON.parse(text) : null;
  window.asked.push({ method: request.method, path, body });
  if (path.endsWith("/commands")) {
    await new Promise((done) => window.answers.push(done));
    if (window.refuse) return said(422, { status: 422, title: "No", detail: window.refuse });
    return said(204, null);
  }
  if (path.endsWith("/end-run")) return said(200, { id: 77 });
  if (request.method === "DELETE") return said(204, null);
  const { status } = window;
  if (status >= 400) return said(status, { status, title: "No", detail: "All are taken." });
  return said(201, bench());
};
window.EventSource = class {
  static CLOSED = 2;
  constructor(url) { this.url = url; this.heard = {}; this.readyState = 1; window.sources.push(this); }
  addEventListener(kind, listener) { this.heard[kind] = listener; }
  close() { this.readyState = 2; }
  say(kind, data) { this.heard[kind]({ data: JSON.stringify(data) }); }
};
window.frame = (more) => ({ lure_depth_m: 5, rod_tip_bend: 0, rod_tip: "still", stick_tip_bend: 0, stick_tip: "still",
  lure_rising_m_s: 0, time_s: 1, eyes: "sonar", lock_m: null, target_depth_m: 0, settings: { range_m: 9 }, top_m: 0,
  bottom_m: 9, events: [], run_id: null, ...more });
window.settle = async () => {
  for (let quiet = 0; quiet < 2; quiet = window.reading ? 0 : quiet + 1)
    await new Promise((done) => setTimeout(done, 12));
};
window.begin = async () => {
  window.stream = modules.stream.BenchStream.ofBench({ hole_id: 1 }, 7);
  await window.stream.start();
  await window.settle();
  return window.stream;
};
window.commands = () => window.asked.filter((one) => one.path.endsWith("/commands")).map((one) => one.body);
window.answer = async () => {
  while (window.answers.length === 0) await window.settle();
  window.answers.shift()();
  await window.settle();
};
"""


@pytest.fixture(scope="module")
def page(chromium):
    context = chromium.new_context()
    context.route("**/*", lambda route: route.fulfill(status=200, content_type="text/html", body="<p></p>"))
    yield context.new_page()
    context.close()


@pytest.fixture
def play(page):
    """Run a piece of script on a fresh stage with a stream that has begun; what it returns."""
    page.goto("http://stage.test/")
    page.evaluate(f"() => {{ {STAGE} }}")
    page.add_script_tag(path=MODULES.as_posix())
    # The bundle is a module's names in one variable of the script.
    page.evaluate("() => { window.modules = modules; }")

    def played(script: str) -> Any:
        return page.evaluate(f"async () => {{ const s = await window.begin(); {script} }}")

    return played


# --- beginning -----------------------------------------------------------------------------------------------------


def test_it_opens_a_bench_with_its_seed_and_listens_to_it(play):
    asked, url, link = play("return [window.asked, window.sources[0].url, s.link];")
    assert asked == [{"method": "POST", "path": "/api/benches", "body": {"hole_id": 1, "seed": 7}}]
    assert url == "/api/benches/b1/stream" and link == "starting"


def test_it_is_live_with_the_first_frame_and_shows_what_the_frame_says(play):
    said = play(
        """
        window.sources[0].say("frame", window.frame({ lure_depth_m: 6.5, rod_tip: "tap", time_s: 3, eyes: "rod" }));
        return { link: s.link, depth: s.lureDepth, tip: s.rodTip, time: s.time, eyes: s.eyes, message: s.message };
        """
    )
    assert said == {"link": "live", "depth": 6.5, "tip": "tap", "time": 3, "eyes": "rod", "message": ""}


def test_frames_and_events_go_to_whoever_listens_until_they_do_not(play):
    frames, events = play(
        """
        const frames = [], events = [];
        const off = s.onFrame((frame) => frames.push(frame.time_s));
        s.onEvent((event) => events.push(event.kind));
        window.sources[0].say("frame", window.frame({ time_s: 1, events: [{ kind: "bite" }, { kind: "gone" }] }));
        off();
        window.sources[0].say("frame", window.frame({ time_s: 2, events: [{ kind: "hooked" }] }));
        return [frames, events];
        """
    )
    assert frames == [1] and events == ["bite", "gone", "hooked"]


# --- commands ------------------------------------------------------------------------------------------------------


def test_one_command_is_on_its_way_at_a_time_and_later_ones_are_folded_into_the_next(play):
    sent = play(
        """
        s.send({ lift_m_s: 0.1 });
        for (let gain = 1; gain <= 5; gain++) s.turn({ gain });
        s.send({ eyes: "rod" });
        await window.settle();
        const first = window.commands().length;
        await window.answer();
        return [first, window.commands()];
        """
    )
    assert sent[0] == 1
    assert sent[1][0] == {"lift_m_s": 0.1}
    assert len(sent[1]) == 2 and sent[1][1]["settings"]["gain"] == 5 and sent[1][1]["eyes"] == "rod"


def test_a_later_move_takes_the_place_of_an_earlier_one(play):
    """Of lower-to and lift that wait, the last alone is sent: both at once would be neither."""
    sent = play(
        """
        s.send({ eyes: "rod" });
        s.send({ to_depth_m: 7 });
        s.send({ lift_m_s: 0.1 });
        await window.settle();
        await window.answer();
        return window.commands()[1];
        """
    )
    assert sent["lift_m_s"] == 0.1 and sent["to_depth_m"] is None


@pytest.mark.parametrize("single", ["set_hook", "twitch", "kick"])
def test_what_is_done_once_is_never_folded_away(play, single):
    sent = play(
        f"""
        s.send({{ eyes: "rod" }});
        s.send({{ {single}: true, force: "hard", rod: "jig" }});
        s.turn({{ gain: 3 }});
        s.send({{ lift_m_s: 0.2 }});
        await window.settle();
        await window.answer();
        return window.commands()[1];
        """
    )
    assert sent[single] is True and sent["settings"]["gain"] == 3 and sent["lift_m_s"] == 0.2
    assert (sent["force"], sent["rod"]) == ("hard", "jig")


def test_a_second_set_of_the_hook_is_its_own(play):
    sent = play(
        """
        s.send({ eyes: "rod" });
        s.send({ set_hook: true, force: "firm", rod: "stick" });
        s.send({ set_hook: true, force: "hard", rod: "jig" });
        await window.settle();
        await window.answer();
        return window.commands()[1];
        """
    )
    assert (sent["set_hook"], sent["force"], sent["rod"]) == (True, "hard", "jig")


def test_knobs_stand_turned_at_once_and_never_past_their_ends(play):
    gains = play(
        """
        const gains = [];
        for (const way of [1, 1, 1, 1, -1]) { s.gainStep(way); gains.push(s.settings.gain); }
        for (let k = 0; k < 20; k++) s.gainStep(-1);
        return [...gains, s.settings.gain];
        """
    )
    assert gains == [11, 12, 12, 12, 11, 0]


def test_water_that_is_refused_is_shown_as_it_was_and_why(play):
    said = play(
        """
        window.sources[0].say("frame", window.frame({}));
        s.change({ tilt_deg: 5 });
        await window.settle();
        await window.answer();
        window.refuse = "tilt_deg is 99.";
        s.change({ tilt_deg: 99 });
        await window.settle();
        const hoped = s.scene.tilt_deg;
        await window.answer();
        return [hoped, s.scene.tilt_deg, s.message];
        """
    )
    assert said == [99, 5, "tilt_deg is 99."]


def test_an_automatic_range_turns_the_pages_knob_but_not_under_the_hand(play):
    ranges = play(
        """
        s.turn({ auto_range: true });
        await window.settle();
        window.sources[0].say("frame", window.frame({ settings: { range_m: 18 } }));
        const during = s.settings.range_m;
        await window.answer();
        window.sources[0].say("frame", window.frame({ settings: { range_m: 18 } }));
        return [during, s.settings.range_m];
        """
    )
    assert ranges == [9, 18]


def test_the_reader_is_heard_while_it_is_wanted(play):
    heard = play(
        """
        window.sources[0].say("reading", { marks: [1] });
        const before = s.reading;
        s.read(true);
        window.sources[0].say("reading", { marks: [2] });
        const during = s.reading;
        s.read(false);
        return [before, during, s.reading];
        """
    )
    assert heard == [None, {"marks": [2]}, None]


# --- drops ---------------------------------------------------------------------------------------------------------


def test_a_dropped_stream_goes_back_to_the_same_bench(play):
    said = play(
        """
        window.sources[0].say("frame", window.frame({}));
        window.sources[0].onerror();
        const lost = [s.link, s.message];
        await new Promise((r) => setTimeout(r, 1700));
        window.sources[1].say("frame", window.frame({}));
        return [lost, window.sources[1].url, s.link, s.message, window.asked.length];
        """
    )
    assert said[0] == ["lost", "The picture stopped. Reconnecting."]
    assert said[1:] == ["/api/benches/b1/stream", "live", "", 1]


def test_a_bench_that_was_freed_is_begun_anew_where_the_knobs_and_the_lure_stood(play):
    asked = play(
        """
        window.sources[0].say("frame", window.frame({ lure_depth_m: 6 }));
        s.turn({ gain: 4 });
        await window.settle(); await window.answer();
        s.aim(5.5);
        await window.settle(); await window.answer();
        window.sources[0].onerror();              // dropped
        await new Promise((r) => setTimeout(r, 1700));
        window.sources[1].onerror();              // and not there any more
        await new Promise((r) => setTimeout(r, 1700));
        await window.settle();
        return window.asked.slice(3);
        """
    )
    assert asked[0]["path"] == "/api/benches"
    again = asked[1]["body"]
    assert asked[1]["path"] == "/api/benches/b2/commands"
    assert again["settings"]["gain"] == 4 and again["to_depth_m"] == 6 and again["target_depth_m"] == 5.5


def test_where_the_lure_was_told_to_go_is_where_it_goes_again(play):
    asked = play(
        """
        window.sources[0].say("frame", window.frame({ lure_depth_m: 2 }));
        s.send({ to_depth_m: 7 });
        await window.settle(); await window.answer();
        window.sources[0].onerror();
        await new Promise((r) => setTimeout(r, 1700));
        window.sources[1].onerror();
        await new Promise((r) => setTimeout(r, 1700));
        await window.settle();
        return window.asked.at(-1).body.to_depth_m;
        """
    )
    assert asked == 7


def test_when_all_places_are_taken_it_says_so_and_asks_again(play):
    said = play(
        """
        window.status = 503;
        const other = modules.stream.BenchStream.ofBench({ hole_id: 2 }, 1);
        await other.start();
        const refused = [other.link, other.message];
        window.status = 201;
        await new Promise((r) => setTimeout(r, 3300));
        await window.settle();
        return [refused, window.asked.filter((one) => one.body?.hole_id === 2).length, window.sources.length];
        """
    )
    assert said == [["refused", "All are taken."], 2, 2]


# --- the end -------------------------------------------------------------------------------------------------------


def test_a_closed_stream_hears_and_does_nothing_more(play):
    said = play(
        """
        window.sources[0].say("frame", window.frame({ time_s: 1 }));
        s.close();
        window.sources[0].say("frame", window.frame({ time_s: 2 }));
        window.sources[0].onerror();
        await new Promise((r) => setTimeout(r, 1700));
        return [s.time, window.sources.length, window.sources[0].readyState];
        """
    )
    assert said == [1, 1, 2]


def test_a_run_that_is_over_says_where_it_is_kept_and_stays_over(play):
    said = play(
        """
        window.sources[0].say("frame", window.frame({ run_id: 12 }));
        window.sources[0].onerror();
        await new Promise((r) => setTimeout(r, 1700));
        return [s.runId, window.sources.length, window.sources[0].readyState];
        """
    )
    assert said == [12, 1, 2]


def test_a_run_is_ended_once_and_its_drop_is_no_loss(play):
    said = play(
        """
        window.sources[0].say("frame", window.frame({}));
        const ending = s.endRun();
        void s.endRun();
        window.sources[0].onerror();
        await ending;
        await window.settle();
        return [s.runId, s.link, window.asked.filter((one) => one.path.endsWith("/end-run")).length];
        """
    )
    assert said == [77, "live", 1]
