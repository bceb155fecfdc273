"""The pocket sheet as one file of HTML: the page's script and style, and everything that was worked out, packed.

Whole numbers as differences from depth to depth, bytes as differences from place to place, deflated (RFC 1951) and in
letters (base64, RFC 4648). A content security policy in the page forbids it to fetch anything, whatever its script
does.
"""

from __future__ import annotations

import base64
import hashlib
import json
import re
import zlib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict
from typing import Any

import numpy as np

from ..core.checks import InputError
from ..core.pocket.along import DEPTHS_M, STEP_M
from ..core.pocket.calls import touch_tables
from ..core.pocket.fan_cards import FanThere
from ..core.pocket.tables import COLUMNS, CardThere, Tables
from ..core.wording import Sentence

VERSION = 1
MOST_BYTES = 600_000
# No fetch, no frame, no picture from anywhere.
POLICY = "default-src 'none'; script-src {script}; style-src {style}; base-uri 'none'; form-action 'none'"


class _Said:
    """Sentences that are kept once each."""

    def __init__(self) -> None:
        self.every: list[dict[str, Any]] = []
        self._places: dict[str, int] = {}

    def place(self, one: Sentence) -> int:
        told = asdict(one)
        for quantity in told["values"].values():
            quantity["value"] = round(float(quantity["value"]), 3)
        key = json.dumps(told)
        if key not in self._places:
            self._places[key] = len(self.every)
            self.every.append(told)
        return self._places[key]


def differences(values: Sequence[int | None]) -> list[int | None]:
    """Each number less the last one before it that is there; None stays."""
    last, found = 0, list[int | None]()
    for one in values:
        found.append(None if one is None else one - last)
        last = last if one is None else one
    return found


def cards_document(tables: Tables) -> tuple[dict[str, Any], bytes]:
    """The cards as JSON-ready columns for each combination, and the call tables of all of them as bytes.

    `shapes` are colours and places of the call table at each depth that has a card, in the order of the bytes.
    """
    said = _Said()
    combinations: list[dict[str, Any]] = []
    packed: list[bytes] = []
    for one, cards in tables.cards.items():
        there = [card for card in cards if card is not None]
        combinations.append(
            {
                **asdict(one),
                "columns": {name: differences([_value(card, name) for card in cards]) for name in COLUMNS},
                "has": [int(card is not None) for card in cards],
                "said": [[] if card is None else [said.place(text) for text in card.said] for card in cards],
                "shapes": [list(card.calls.values.shape[::2]) for card in there],
            }
        )
        packed += [np.diff(card.calls.values, axis=2, prepend=np.uint8(0)).tobytes() for card in there]
    document = {
        "depths": {"first_m": DEPTHS_M[0], "step_m": STEP_M, "count": len(DEPTHS_M)},
        "combinations": combinations, "sentences": said.every, "touches": touch_tables(),
    }  # fmt: skip
    return document, b"".join(packed)


def _value(card: CardThere | None, name: str) -> int | None:
    return None if card is None else card.values[name]


def fan_document(cards: Iterable[FanThere]) -> list[dict[str, Any]]:
    """The fan's cards as they are shown: settings, hang, what each control does, what to change later."""
    return [
        {
            "job": one.job, "light": one.light, "depth_m": one.depth_m,
            "card": None if one.card is None else {
                "settings": asdict(one.card.settings), "hang": asdict(one.card.hang),
                "lines": {name: _rounded(line) for name, line in one.card.lines.items()},
                "later": [_rounded(line) for line in one.card.later],
            },
        }
        for one in cards
    ]  # fmt: skip


def _rounded(said: Sentence) -> dict[str, Any]:
    told = asdict(said)
    for quantity in told["values"].values():
        quantity["value"] = round(float(quantity["value"]), 3)
    return told


def packed(content: bytes) -> str:
    """Bytes deflated and in letters."""
    deflate = zlib.compressobj(9, zlib.DEFLATED, -15)
    return base64.b64encode(deflate.compress(content) + deflate.flush()).decode()


def html(title: str, document: Mapping[str, Any], calls: bytes, script: str, style: str) -> str:
    """The file. Raises ValueError where it would be larger than MOST_BYTES, saying by how much."""
    told = packed(json.dumps(document, ensure_ascii=False, separators=(",", ":")).encode())
    script, style = _closed(script), _closed(style)
    policy = POLICY.format(script=_sha256(script), style=_sha256(style))
    page = (
        '<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n'
        f'<meta http-equiv="Content-Security-Policy" content="{policy}">\n'
        '<meta name="viewport" content="width=device-width, initial-scale=1">\n'
        f"<title>{_escaped(title)}</title>\n<style>{style}</style>\n</head>\n<body>\n"
        "<noscript>This sheet needs scripts of its own: open it in a browser that runs them.</noscript>\n"
        '<div id="sheet"></div>\n'
        f'<script type="text/plain" id="told">{told}</script>\n'
        f'<script type="text/plain" id="calls">{packed(calls)}</script>\n<script>{script}</script>\n</body>\n</html>\n'
    )
    size = len(page.encode())
    if size > MOST_BYTES:
        raise InputError(
            f"this sheet would be {size // 1000} kB: accepted are {MOST_BYTES // 1000} kB; choose fewer units, lures, "
            "clarities, lights or companies"
        )
    return page


def _sha256(content: str) -> str:
    """As a content security policy names what it allows (W3C CSP3)."""
    return f"'sha256-{base64.b64encode(hashlib.sha256(content.encode()).digest()).decode()}'"


def _closed(content: str) -> str:
    """A script or style in which nothing can end it early or hide its end: such marks stand only within its texts,
    where a stroke before a sign changes nothing (HTML Standard, restrictions for contents of script elements)."""
    return re.sub(r"<(!--|/script|/style)", r"<\\\1", content, flags=re.IGNORECASE)


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace('"', "&quot;")
