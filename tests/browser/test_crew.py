"""A morning with three phones: invited, called to from afar, one that sleeps and catches up, one that is shut out."""

from __future__ import annotations

import json
import re
import shutil
import ssl
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from hollow_glint.cli import _own_address
from tests.running import Running, running_server, start

from .conftest import AXE, DESK, PHONE

POCKET = {"width": 360, "height": 740}
SPARE = "192.0.2.77"  # an address for documents (RFC 5737), for a machine that has no network at all


@pytest.fixture(scope="module")
def address() -> str:
    """This machine's address on a network: phones come from there, and not from the machine itself."""
    found = _own_address()
    if found.startswith("127."):
        subprocess.run(["ip", "address", "add", f"{SPARE}/32", "dev", "lo"], check=True)
        found = SPARE
    return found


@pytest.fixture(scope="module")
def crew(seeded: Path, tmp_path_factory, address):
    """The demo, open to a crew."""
    folder = tmp_path_factory.mktemp("crew")
    shutil.copytree(seeded, folder, dirs_exist_ok=True)
    with running_server(folder, more=("--crew",)) as running:
        yield running


@pytest.fixture
def browsers(chromium: Browser):
    """New contexts, each a phone or a desk of its own; what goes wrong on their pages fails the test."""
    contexts: list[BrowserContext] = []
    wrong: list[str] = []

    def opened(viewport=PHONE, theme="rime") -> Page:
        context = chromium.new_context(
            viewport=viewport, has_touch=viewport != DESK, reduced_motion="reduce",
            color_scheme="dark" if theme == "lantern" else "light",
        )  # fmt: skip
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: wrong.append(str(error)))
        return page

    yield opened
    for one in contexts:
        one.close()
    assert wrong == []


def host_page(browsers, crew: Running, **options) -> Page:
    page = browsers(DESK, **options)
    page.goto(f"{crew.url}/#/hole/1/trip/crew")
    expect(page.get_by_role("button", name="Invite one more")).to_be_visible(timeout=30_000)
    page.get_by_role("button", name=re.compile("^The crew is on")).click()
    return page


def invite(host: Page) -> tuple[str, str]:
    """The address with the code, and the six words."""
    with host.expect_response(lambda one: one.url.endswith("/api/crew/invitations")) as told:
        host.get_by_role("button", name="Invite one more").click()
    shown = host.get_by_test_id("invitation")
    code = shown.get_by_role("img", name="Square code of the invitation")
    expect(code).to_be_visible()
    host.wait_for_function("(one) => one.complete && one.naturalWidth > 100", arg=code.element_handle())
    made = told.value.json()
    expect(shown).to_contain_text(made["words"])
    return made["url"], made["words"]


def join(page: Page, where: str, name: str, words: str = "") -> None:
    page.goto(where)
    if words:
        page.get_by_label("Six words").fill(words)
    page.get_by_label("Your name").fill(name)
    page.get_by_role("button", name="Come in", exact=True).tap()
    expect(page.get_by_role("heading", name="Where fish are")).to_be_visible()


def stand_at(page: Page, name: str, from_hole: str | None = None, paces: int = 0, direction: str = "") -> None:
    if from_hole is None:
        page.get_by_label("I am at").select_option(name)
    else:
        page.get_by_text("A hole of my own").tap()
        page.get_by_label("Its name").fill(name)
        page.get_by_label("From").select_option(from_hole)
        page.get_by_label("Paces").fill(str(paces))
        page.get_by_label("Direction").select_option(label=direction)
        page.get_by_role("button", name="I stand there").tap()
    expect(page.get_by_role("region", name="What happened")).to_contain_text(name)


def test_a_morning_with_three_phones(browsers, crew, address):
    host = host_page(browsers, crew)
    tor, ada, eve = browsers(), browsers(theme="lantern"), browsers(POCKET)
    url, _ = invite(host)
    assert address in url
    join(tor, url, "Tor")
    assert "#" not in tor.url, "the code is not left for others to read"
    _, words = invite(host)
    join(ada, url.split("#")[0], "Ada", words.upper())
    _, words = invite(host)
    join(eve, url.split("#")[0], "Eve", words)
    members = host.get_by_role("list", name="Members").get_by_role("listitem")
    expect(members).to_have_count(3)

    # Tor sees fish; Ada, forty paces east of him, has the call turned to her own hole.
    first = tor.get_by_label("I am at").locator("option").nth(1).inner_text()
    stand_at(tor, first)
    stand_at(ada, "East hole", first, 40, "E (90°)")
    tor.get_by_text("I see fish").tap()
    tor.get_by_role("group", name="At what o'clock").get_by_role("button", name="12", exact=True).tap()
    tor.get_by_label("How far").fill("98.4")
    tor.get_by_role("button", name="Tell the crew").tap()
    # 30 m east and 30 m north of it: 42.4 m on 315 degrees, 57 paces.
    expect(ada.get_by_test_id("calls")).to_contain_text(re.compile(r"139\.\d ft on 315°, 57 paces"), timeout=5_000)
    expect(ada.get_by_test_id("calls")).to_contain_text("Tor, ")
    expect(tor.get_by_test_id("calls")).to_contain_text(re.compile("98.4 ft on (0|360)°"))
    expect(eve.get_by_test_id("calls")).to_contain_text("Say at which hole you are")

    # Ada's phone sleeps: what she touches in waits there, and goes when it wakes; she hears what was said meanwhile.
    ada.context.set_offline(True)
    ada.get_by_role("button", name="Bite").tap()
    ada.get_by_role("button", name="Fish", exact=True).tap()
    expect(ada.get_by_role("region", name="What happened")).to_contain_text("2 wait in this phone")
    tor.get_by_role("button", name="Call everyone in").tap()
    tor.get_by_role("button", name="Yes, call everyone in").tap()
    expect(eve.get_by_role("alert")).to_contain_text("Come in now", timeout=5_000)
    expect(host.get_by_role("alert")).to_contain_text("All are called in")
    ada.context.set_offline(False)
    expect(ada.get_by_role("alert")).to_contain_text("Come in now", timeout=15_000)
    expect(ada.get_by_role("region", name="What happened")).not_to_contain_text("wait in this phone")
    expect(tor.get_by_role("region", name="Said lately")).to_contain_text("bite, East hole")
    log = host.evaluate("fetch('/api/log/file?kind=json').then((one) => one.json())")
    stays = [stay for outing in log["outings"] for stay in outing["stays"] if stay["hole"] == "East hole"]
    assert [[one["kind"] for one in stay["happened"]] for stay in stays] == [["bite", "fish"]]
    eve.get_by_role("button", name="All is well again").tap()
    expect(tor.get_by_role("alert")).to_have_count(0)

    # Eve's membership ends: her page says so at once, and nothing that she has leads back in.
    host.get_by_role("button", name="End membership: Eve").click()
    expect(eve.get_by_role("heading", name="Come in")).to_be_visible(timeout=30_000)
    eve.get_by_label("Six words").fill(words)
    eve.get_by_label("Your name").fill("Eve")
    eve.get_by_role("button", name="Come in", exact=True).tap()
    expect(eve.get_by_text(re.compile("No invitation is opened by that"))).to_be_visible()
    eve.reload()
    expect(eve.get_by_role("heading", name="Come in")).to_be_visible()
    assert eve.evaluate("fetch('/api/units').then((one) => one.status)") == 401
    assert eve.evaluate("document.cookie") == ""
    expect(members).to_have_count(2)

    # A second host may invite; the rest stays the host's.
    host.get_by_role("button", name="Second host: Tor").click()
    expect(host.get_by_role("button", name="Second host: Tor")).to_have_attribute("aria-pressed", "true")
    sent = "{method: 'POST', headers: {'content-type': 'application/json'}}"
    status = tor.evaluate(f"fetch('/api/crew/invitations', {sent}).then((one) => one.status)")
    assert status == 201 and tor.evaluate("fetch('/api/outings').then((one) => one.status)") == 403


def test_over_tls_with_a_certificate_of_ones_own(seeded, tmp_path, address):
    """The cookie goes over TLS alone then, and who asks without it is told nothing."""
    folder = tmp_path / "data"
    shutil.copytree(seeded, folder)
    files = [str(tmp_path / name) for name in ("crew.pem", "crew.key")]
    subprocess.run(
        ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=crew",
         "-out", files[0], "-keyout", files[1]], check=True, capture_output=True,
    )  # fmt: skip
    trusting = ssl.create_default_context()
    trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE  # it is our own, and signed by nobody

    def ask(running, where, path, method="GET", body=None):
        request = urllib.request.Request(
            f"https://{where}:{running.port}{path}", method=method, headers={"Content-Type": "application/json"},
            data=None if body is None else json.dumps(body).encode(),
        )  # fmt: skip
        try:
            return urllib.request.urlopen(request, timeout=10, context=trusting)
        except urllib.error.HTTPError as refused:
            return refused

    running = start(folder, more=("--crew", "--tls", *files))
    try:
        for _ in range(200):
            try:
                assert ask(running, "127.0.0.1", "/api/health").status == 200
                break
            except urllib.error.URLError:
                time.sleep(0.1)
        made = json.loads(ask(running, "127.0.0.1", "/api/crew/invitations", "POST", {}).read())
        assert made["url"].startswith(f"https://{address}:{running.port}/crew#")
        assert ask(running, address, "/api/units").status == 401
        joined = ask(running, address, "/api/crew/join", "POST", {"given": made["words"], "name": "Tor"})
        assert joined.status == 201 and "Secure" in joined.headers["Set-Cookie"]
        with pytest.raises((urllib.error.URLError, ConnectionError)):
            urllib.request.urlopen(f"http://{address}:{running.port}/crew", timeout=5)
    finally:
        running.process.terminate()
        assert running.process.wait(timeout=20) is not None


@pytest.mark.parametrize(("theme", "viewport"), [("rime", POCKET), ("lantern", PHONE), ("rime", DESK)])
def test_the_board_is_legible_reachable_and_runs_off_no_side(browsers, crew, theme, viewport):
    host, phone = host_page(browsers, crew), browsers(viewport, theme)
    url, _ = invite(host)
    phone.goto(url)
    phone.get_by_label("Your name").fill("Maren")
    for _ in range(2):
        phone.evaluate(Path(AXE).read_text("utf-8"))
        found = phone.evaluate("axe.run(document).then((o) => o.violations.map((v) => `${v.id} ${v.nodes[0].target}`))")
        assert found == []
        assert phone.evaluate("document.documentElement.scrollWidth <= innerWidth")
        if phone.get_by_role("button", name="Come in", exact=True).is_visible():
            phone.get_by_role("button", name="Come in", exact=True).click()
            expect(phone.get_by_role("heading", name="Where fish are")).to_be_visible()
            phone.get_by_label("I am at").select_option(index=1)
            phone.get_by_text("I see fish").click()
            expect(phone.get_by_role("button", name="Tell the crew")).to_be_visible()
