"""Makes tests/browser/dial.webm: a film of a made-up dial in a hand. `python -m tools.made_film`, on a quiet machine.

A browser records in the time that it takes, and a busy one drops pictures: so the film lies with the tests.
"""

from __future__ import annotations

import base64
from pathlib import Path

import numpy as np
from playwright.sync_api import sync_playwright

from hollow_glint.core.gear.ladders import SIX_STEP
from hollow_glint.stand_ins.made_up_dial import Dial, made_up_dial
from hollow_glint.stand_ins.phone_camera import Photo, Shot, filmed
from tests.core.photo.test_screen_photo import picture
from tests.running import CHROMIUM_FLAGS, chromium_path

PATH = Path(__file__).parents[1] / "tests/browser/dial.webm"
DIAL = Dial(scale=0.9)
WIDE, HIGH = 640, 480
EACH_MS = 250

RECORD = """async ([pictures, each, wide, high]) => {
  const paper = Object.assign(document.createElement("canvas"), { width: wide, height: high });
  const bitmaps = [];
  for (const one of pictures) {
    const bytes = Uint8Array.from(atob(one), (letter) => letter.charCodeAt(0));
    bitmaps.push(await createImageBitmap(new Blob([bytes], { type: "image/jpeg" })));
  }
  const shown = paper.getContext("2d");
  shown.drawImage(bitmaps[0], 0, 0);
  const recorder = new MediaRecorder(paper.captureStream(20), { mimeType: "video/webm;codecs=vp8",
                                                                videoBitsPerSecond: 6e5 });
  const parts = [];
  recorder.ondataavailable = (event) => parts.push(event.data);
  const stopped = new Promise((done) => (recorder.onstop = done));
  recorder.start();
  const began = performance.now();
  for (let k = 0; k < bitmaps.length; k++) {
    while (performance.now() - began < (k + 1) * each) {
      shown.drawImage(bitmaps[k], 0, 0);
      await new Promise((done) => setTimeout(done, 25));
    }
  }
  recorder.stop();
  await stopped;
  const bytes = new Uint8Array(await new Blob(parts).arrayBuffer());
  let letters = "";
  for (let at = 0; at < bytes.length; at += 0x8000) letters += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  return btoa(letters);
}"""


def pictures(count: int = 16) -> list[Photo]:
    """The film's pictures."""
    levels = picture()
    screens = (made_up_dial(levels[:, 40 + 2 * k], list(SIX_STEP.colours("lantern")), 12.0, DIAL) for k in range(count))
    return list(filmed(screens, Shot(size=(WIDE, HIGH), keystone=0.03), 0.008, np.random.default_rng(8), 8))


def main() -> None:
    """Record it."""
    letters = [base64.b64encode(one.content).decode() for one in pictures()]
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_FLAGS)
        film = browser.new_page().evaluate(RECORD, [letters, EACH_MS, WIDE, HIGH])
        browser.close()
    PATH.write_bytes(base64.b64decode(film))
    print(f"{PATH.name}: {PATH.stat().st_size // 1000} kB")


if __name__ == "__main__":
    main()
