"""Photos over the web: levels as the contract says, every kind of bad file and bad word told plainly, nothing kept."""

from __future__ import annotations

import io
import json
import struct
import zlib

import numpy as np
import pytest
from PIL import Image

from hollow_glint.core.gear.ladders import SIX_STEP
from hollow_glint.formats.recording_csv import VALUE
from hollow_glint.stand_ins.made_up_dial import Dial, made_up_dial
from hollow_glint.stand_ins.made_up_screen import made_up_screen
from hollow_glint.stand_ins.phone_camera import Shot, filmed, photographed
from tests.core.photo.test_screen_photo import PINGS, ROWS, picture
from tests.web.test_web import is_problem

COLOURS = SIX_STEP.colours("lantern")


@pytest.fixture(scope="module")
def photo():
    screen = made_up_screen(picture(), list(COLOURS), 12.0, np.random.default_rng(11))
    return photographed(screen, Shot(size=(800, 600), turn_deg=3.0, keystone=0.05), np.random.default_rng(11))


def about(photo, **changed):
    return {
        "corners": photo.corners, "top_m": 0.0, "bottom_m": 12.0, "seconds": 60.0, "dark": COLOURS[0],
        "colours": list(COLOURS[1:]), "rows": ROWS, "pings": PINGS, **changed,
    }  # fmt: skip


def send(client, content: bytes, said, path: str = "/api/photo/levels"):
    text = said if isinstance(said, str) else json.dumps(said)
    return client.post(path, data={"photo": (io.BytesIO(content), "photo.jpg"), "about": text},
                       content_type="multipart/form-data")  # fmt: skip


def counts(store) -> dict[str, int]:
    connection = store.connection()
    names = [one["name"] for one in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
    return {name: connection.execute(f'SELECT count(*) FROM "{name}"').fetchone()[0] for name in names}


def test_levels_come_as_in_the_csv_recording_and_nothing_is_kept(app, client, photo):
    before = counts(app.config["database"])
    answer = send(client, photo.content, about(photo))
    assert answer.status_code == 200, answer.text
    told = answer.get_json()
    levels = np.array([[VALUE[one] for one in ping] for ping in told["levels"]])
    assert levels.shape == (PINGS, ROWS)
    assert (np.abs(levels - picture().T) <= 1).mean() > 0.95
    assert all(0 <= a <= b < PINGS and 0 <= c <= d < ROWS for a, b, c, d in told["unsure"])
    assert counts(app.config["database"]) == before


def test_the_photo_is_turned_upright_and_its_corners_are_those_of_the_upright_one(client, photo):
    upright = Image.open(io.BytesIO(photo.content))
    turned = upright.transpose(Image.Transpose.ROTATE_90)
    exif = turned.getexif()
    exif[0x0112] = 6  # turned a quarter: to be shown turned back clockwise
    out = io.BytesIO()
    turned.save(out, "PNG", exif=exif)
    plain = io.BytesIO()
    upright.save(plain, "PNG")
    assert (
        send(client, out.getvalue(), about(photo)).get_json() == send(client, plain.getvalue(), about(photo)).get_json()
    )


@pytest.mark.parametrize("kind", ["PNG", "WEBP"])
def test_other_kinds_of_file_are_read(client, photo, kind):
    out = io.BytesIO()
    Image.open(io.BytesIO(photo.content)).save(out, kind, quality=90)
    assert send(client, out.getvalue(), about(photo)).status_code == 200


def huge_png(side: int) -> bytes:
    """A PNG that claims so many pixels each way, with no more in it than its head."""

    def part(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", side, side, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + part(b"IHDR", head) + part(b"IDAT", zlib.compress(b"\x00" * 100)) + part(b"IEND", b"")


def moving() -> bytes:
    out = io.BytesIO()
    pictures = [Image.new("RGB", (200, 200), (k * 80, 0, 0)) for k in range(3)]
    pictures[0].save(out, "WEBP", save_all=True, append_images=pictures[1:])
    return out.getvalue()


def gif() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (200, 200)).save(out, "GIF")
    return out.getvalue()


def small() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (20, 200)).save(out, "PNG")
    return out.getvalue()


@pytest.mark.parametrize(
    ("content", "said"),
    [(b"", ("photo", "empty")), (b"I am no picture", ("photo", "JPEG, PNG or WebP")),
     (huge_png(60_000), ("60000 x 60000", "million")), (moving(), ("photo moves", "3 pictures")),
     (gif(), ("photo", "JPEG, PNG or WebP")), (small(), ("20 x 200", "at least 64"))],
    ids=["empty", "text", "huge", "moving", "gif", "small"],
)  # fmt: skip
def test_what_is_no_photo_is_told_plainly(client, photo, content, said):
    is_problem(send(client, content, about(photo)), 422, *said)


def test_a_photo_that_is_cut_off_is_told_plainly(client, photo):
    for share in (0.02, 0.3, 0.9):
        cut = photo.content[: int(share * len(photo.content))]
        is_problem(send(client, cut, about(photo)), 422, "photo")


def test_damaged_files_never_break_it(client, photo):
    rng = np.random.default_rng(5)
    small = io.BytesIO()
    Image.open(io.BytesIO(photo.content)).resize((120, 90)).save(small, "JPEG")
    for _ in range(60):
        bent = bytearray(small.getvalue())
        for at in rng.integers(0, len(bent), 12):
            bent[at] = rng.integers(0, 256)
        said = about(photo, corners=[[20, 10], [100, 12], [102, 80], [18, 78]])
        assert send(client, bytes(bent), said).status_code in (200, 422)


@pytest.mark.parametrize(
    ("changed", "said"),
    [({"corners": [[100, 80], [560, 420], [540, 120], [80, 400]]}, ("corners", "cross")),
     ({"corners": [[100, 80], [540, 120], [560, 420]]}, ("corners",)),
     ({"corners": [[100, 80], [5400, 120], [560, 420], [80, 400]]}, ("top right", "800 x 600")),
     ({"top_m": 9.0, "bottom_m": 3.0}, ("bottom_m", "below top_m")),
     ({"colours": ["#0b1822", "#0b1822"]}, ("colours", "alike")), ({"colours": ["#aabbcc"]}, ("colours",)),
     ({"dark": "blue"}, ("dark", "#1a2b3c")), ({"rows": 4}, ("rows", "16 to 1024")), ({"pings": 10**9}, ("pings",)),
     ({"seconds": 0}, ("seconds",)), ({"seconds": "ten"}, ("seconds",)), ({"newest": "up"}, ("newest", "left")),
     ({"who": "me"}, ("who", "not a field")), ({"corners": [["a", 1], [2, 3], [4, 5], [6, 7]]}, ("corners",))],
)  # fmt: skip
def test_what_is_said_wrongly_is_told_plainly(client, photo, changed, said):
    is_problem(send(client, photo.content, about(photo, **changed)), 422, *said)


def test_a_photo_of_something_else_is_told_plainly(client, photo):
    rough = np.random.default_rng(3).integers(0, 256, (60, 80, 3), np.uint8).repeat(10, 0).repeat(10, 1)
    out = io.BytesIO()
    Image.fromarray(rough).save(out, "PNG")
    is_problem(send(client, out.getvalue(), about(photo)), 422, "the photo shows", "corners and colours")


def test_words_that_are_no_json_and_bodies_that_are_no_form(client, photo):
    is_problem(send(client, photo.content, "{"), 400, "about", "JSON")
    is_problem(send(client, photo.content, "[1]"), 422, "about")
    is_problem(send(client, photo.content, "[" * 30_000), 400, "nested")
    is_problem(send(client, photo.content, '{"seconds": NaN}'), 400, "NaN")
    answer = client.post("/api/photo/levels", json={"photo": "x"})
    is_problem(answer, 415, "multipart/form-data")
    answer = client.post("/api/photo/levels", data={"about": "{}"}, content_type="multipart/form-data")
    is_problem(answer, 422, "photo")


def about_recording(photo, client, **changed):
    said = {name: value for name, value in about(photo).items() if name not in ("rows", "pings")}
    return {**said, "name": "From a photo", "unit_id": six_stepped(client), "hole_id": 1, **changed}


def test_a_photo_becomes_a_recording_and_goes_with_it(app, client, photo):
    """Kept only when that is asked for, without what the phone wrote; removed and brought back with its recording."""
    kept = send(client, photo.content, about_recording(photo, client), "/api/photo/recordings")
    assert kept.status_code == 201, kept.text
    whole = client.get(f"/api/recordings/{kept.json['id']}").get_json()
    assert whole["seconds"] == 60.0 and any("the rod" in one for one in whole["remarks"])
    is_problem(client.get(f"/api/recordings/{kept.json['id']}/photo"), 404, "photo")
    with_place = io.BytesIO()
    image = Image.open(io.BytesIO(photo.content))
    exif = image.getexif()
    exif[0x010F] = "A maker"
    exif.get_ifd(0x8825)[2] = (61.0, 12.0, 3.0)
    image.save(with_place, "JPEG", exif=exif, quality=95)
    assert b"A maker" in with_place.getvalue()
    again = send(
        client, with_place.getvalue(), about_recording(photo, client, keep_photo=True), "/api/photo/recordings"
    )
    path = f"/api/recordings/{again.json['id']}"
    there = client.get(path + "/photo")
    assert there.mimetype == "image/jpeg" and b"A maker" not in there.data
    assert not dict(Image.open(io.BytesIO(there.data)).getexif())
    removal = client.delete(path).get_json()["removal"]
    assert counts(app.config["database"])["recording_photo"] == 0
    assert client.post(f"/api/removals/{removal}/undo").status_code == 204
    assert client.get(path + "/photo").data == there.data


def test_the_colours_stay_with_the_unit(client, photo):
    unit = about_recording(photo, client)["unit_id"]
    path = f"/api/units/{unit}/screen-colours"
    assert client.get(path).get_json()["pointed_at"] is False
    colours = ["#1d3f35", "#2f6b4d", "#6a9a4a", "#b9b04a", "#e0863c", "#f5ece0"]
    said = about_recording(photo, client, colours=colours, keep_colours=False)
    send(client, photo.content, said, "/api/photo/recordings")
    assert client.get(path).get_json()["pointed_at"] is False
    assert send(client, photo.content, about_recording(photo, client), "/api/photo/recordings").status_code == 201
    told = client.get(path).get_json()
    assert told["pointed_at"] is True and told["colours"] == list(COLOURS[1:])
    is_problem(client.get(path + "?ladder=30"), 422, "ladder")
    is_problem(client.get("/api/units/9999/screen-colours"), 404)


@pytest.mark.parametrize(
    ("changed", "status", "said"),
    [({"unit_id": 9999}, 404, ("unit",)), ({"lure_id": 9999}, 404, ("lure",)), ({"hole_id": 9999}, 404, ("hole",)),
     ({"colours": ["#223844", "#fff3df"]}, 422, ("colours has 2", "6 steps")), ({"gain": 1e6}, 422, ("gain",)),
     ({"ladder": 31}, 422, ("ladder is 31",)), ({"name": ""}, 422, ("name",)), ({"seconds": 0.2}, 422, ("seconds",)),
     ({"bottom_m": 0.0}, 422, ("bottom_m", "below top_m"))],
)  # fmt: skip
def test_nothing_is_kept_of_a_photo_that_is_said_wrongly(app, client, photo, changed, status, said):
    before = counts(app.config["database"])
    is_problem(
        send(client, photo.content, about_recording(photo, client, **changed), "/api/photo/recordings"), status, *said
    )
    assert counts(app.config["database"]) == before


def test_what_would_mend_the_picture_is_told_of_a_photo_without_a_knob_that_nobody_told(client):
    """Of a photo of lit water: the steps of gain, but no place of the knob."""
    lit = picture()
    lit[20:80] = np.where(np.random.default_rng(2).random((30, PINGS // 2)) < 0.3, 2, 0).repeat(2, 0).repeat(2, 1)
    screen = made_up_screen(lit, list(COLOURS), 12.0, np.random.default_rng(11))
    photo = photographed(screen, Shot(size=(1600, 1200)), np.random.default_rng(11))
    kept = send(client, photo.content, about_recording(photo, client), "/api/photo/recordings").get_json()
    told = client.get(f"/api/recordings/{kept['id']}/mending").get_json()
    assert told["lit_share"] > 0.15
    assert "steps less gain" in told["mends"][0]["what"]["text"] and told["mends"][0]["change"] is None
    assert client.get("/api/recordings/99999/mending").status_code == 404


def test_corners_come_with_every_photo(client, photo):
    told = send(client, photo.content, "{}", "/api/photo/corners").get_json()
    assert (told["width"], told["height"]) == (800, 600) and len(told["corners"]) == 4
    out = io.BytesIO()
    Image.new("RGB", (300, 200), (90, 90, 90)).save(out, "PNG")
    told = send(client, out.getvalue(), "{}", "/api/photo/corners").get_json()
    assert told["found"] is False and told["corners"][0] == [45.0, 30.0]
    is_problem(send(client, b"no", "{}", "/api/photo/corners"), 422, "photo")


DIAL = Dial(zero=0.3, scale=0.9)


@pytest.fixture(scope="module")
def dials():
    """Six pictures of a film of a dial."""
    screens = [made_up_dial(picture()[:, 40 + 3 * k], list(COLOURS), 12.0, DIAL) for k in range(6)]
    return list(filmed(screens, Shot(size=(640, 480), keystone=0.04), 0.01, np.random.default_rng(12), 12))


def about_ring(dials, **changed):
    return {
        "name": "Dial", "rim": dials[0].shown_at(DIAL.quarters).tolist(), "scale": DIAL.scale, "inner": DIAL.inner,
        "top_m": 0.0, "bottom_m": 12.0, "seconds": 5.0, "unit_id": 1, "dark": COLOURS[0],
        "colours": list(COLOURS[1:]), **changed,
    }  # fmt: skip


def send_ring(client, contents: list[bytes], said):
    files = [(io.BytesIO(one), f"{k}.jpg") for k, one in enumerate(contents)]
    return client.post("/api/photo/ring-recordings", data={"photos": files, "about": json.dumps(said)},
                       content_type="multipart/form-data")  # fmt: skip


def six_stepped(client) -> int:
    """A unit whose first ladder has six steps."""
    units = client.get("/api/units").get_json()["units"]
    return next(one["id"] for one in units if len(one["ladders"][0]["steps"]) == 6)


def test_a_film_of_a_dial_becomes_a_recording(client, dials):
    told = about_ring(dials, unit_id=six_stepped(client), keep_photo=True)
    answer = send_ring(client, [one.content for one in dials], told)
    assert answer.status_code == 201, answer.text
    kept = answer.get_json()
    assert kept["pings"] == 6 and kept["seconds"] == 5.0
    reading = client.get(f"/api/recordings/{kept['id']}/mending").get_json()
    assert reading["bottom_m"] == pytest.approx(12.0 * 98 / ROWS, rel=0.02)
    photo = client.get(f"/api/recordings/{kept['id']}/photo")
    assert Image.open(io.BytesIO(photo.data)).size == (640, 480)


def test_one_photo_of_a_dial_is_held_and_says_so(client, dials):
    answer = send_ring(client, [dials[0].content], about_ring(dials, unit_id=six_stepped(client), seconds=0.0))
    assert answer.status_code == 201, answer.text
    kept = answer.get_json()
    assert kept["seconds"] == 4.0 and any("one ping" in one for one in kept["remarks"])


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"rim": [[10, 10], [20, 10], [20, 20]]}, "rim"),
        ({"rim": [[10, 240], [320, 10], [630, 240], [320, 470]][::-1]}, "rim"),
        ({"scale": 0.1}, "scale"),
        ({"inner": 1.2}, "inner"),
        ({"seconds": 0.2}, "seconds"),
        ({"bottom_m": 0.0}, "bottom_m"),
        ({"colours": list(COLOURS[1:4])}, "colours"),
        ({"name": " "}, "name"),
    ],
)
def test_what_is_wrong_of_a_dial_is_said_and_nothing_kept(app, client, dials, changed, said):
    told = about_ring(dials, **{"unit_id": six_stepped(client), **changed})
    before = counts(app.config["database"])
    is_problem(send_ring(client, [one.content for one in dials], told), 422, said)
    assert counts(app.config["database"]) == before


def test_photos_of_a_dial_that_are_none_or_too_many(app, client, dials):
    told = about_ring(dials, unit_id=six_stepped(client))
    before = counts(app.config["database"])
    is_problem(send_ring(client, [], told), 422, "photos")
    is_problem(send_ring(client, [dials[0].content, b"no photo"], told), 422, "photos", "number 2 of 2")
    is_problem(send_ring(client, [dials[0].content[:60]] * 241, told), 422, "photos")
    assert counts(app.config["database"]) == before


def test_a_ring_is_found_and_nothing_kept(app, client, dials, photo):
    before = counts(app.config["database"])

    def look(content):
        return client.post("/api/photo/ring", data={"photo": (io.BytesIO(content), "a.jpg")},
                           content_type="multipart/form-data")  # fmt: skip

    told = look(dials[0].content).get_json()
    assert told["found"] and (told["width"], told["height"]) == (640, 480)
    truth = dials[0].shown_at(DIAL.at(np.arange(360) / 360.0, 1.0))
    assert all(np.hypot(*(truth - place).T).min() < 6.0 for place in told["rim"])
    assert told["inner"] == pytest.approx(DIAL.inner, abs=0.03)
    other = look(photo.content).get_json()
    assert not other["found"] and len(other["rim"]) == 4
    is_problem(look(b"no photo"), 422, "photo")
    assert counts(app.config["database"]) == before
