"""The hole card: how to hang and set a unit for this hole, this lure and this company, with the numbers behind it.

It is made by the same terms as the picture: the coach is asked, change by change, until it has nothing to change, so
that the card and the Bench never say different things. Then the school decides where in the gain window to stand.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from . import beam, coach, picture, ping, receiver, tuning
from . import unit as units
from .at_hole import AtHole
from .checks import Floats, InputError
from .coach import Change, Quantity, Situation
from .lures import Lure
from .scene import Scene
from .sonar_equation import max_ping_rate
from .targets import fish_target_strength
from .tuning import LEAN_SHARE, GainWindow
from .unit import FOOT, Settings, UnitProfile

MOST_CHANGES = 14
SURE_SD = 2.0  # a calibrated unit's window is drawn in by this many standard deviations
IN_THE_CONE = 0.7  # share of the seen zone within which the second hole is a useful distance away. Common practice
ON_BOTTOM_M = 2.0  # a lure nearer to the bottom than this is for fish on the bottom
NARROW_DB, WELL_DB = 10.0, 3.0  # a window narrower than the one is worth widening by the other. Common practice
ROOM_ABOVE_M = 0.3  # a window shows at least this much water above the lure


@dataclass(frozen=True)
class Said:
    """A sentence with `{names}` for its values."""

    text: str
    values: dict[str, Quantity] = field(default_factory=dict)


@dataclass(frozen=True)
class Unknown:
    """Something not known: what is assumed, and what it may cost the gain window [dB] if it is otherwise."""

    name: str
    assumed: float | str
    cost_db: float


@dataclass(frozen=True)
class Gains:
    """The gain window in the unit's numbers, and the firm one: what is left of it whatever the unknowns turn out to be.

    floor is None when the lure lies in a stronger echo or out of the beam; open: some knob step lies inside
    sd   how surely floor and ceiling are known from calibration [1 sd, knob numbers]; 0 without
    """

    floor: float | None
    ceiling: float
    firm_floor: float | None
    firm_ceiling: float
    width_db: float | None
    open: bool
    firm: bool
    floor_sd: float
    ceiling_sd: float


@dataclass(frozen=True)
class School:
    """What a school gives here: the gain, and what it gains and loses. Diameters and lengths [m], share [percent]."""

    school: str
    gain: float
    water_lit_percent: float
    lure_seen_m: float
    fish_seen_m: float
    smallest_fish_m: float
    lure_colour: int


@dataclass(frozen=True)
class View:
    """What a choice of window gives here: which it is, its span [m of shown depth], and the height of a row [m]."""

    view: str
    kind: str
    settings: Settings
    top_m: float
    bottom_m: float
    row_m: float


@dataclass(frozen=True)
class Numbers:
    """The numbers behind the card. Lengths [m]; colours are ladder steps, 0 none, on axis and at the cone's edge."""

    true_depth_m: float
    displayed_depth_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    lure_seen_m: float
    fish_seen_m: float
    fish_seen_at_bottom_m: float
    row_m: float
    gap_m: float
    dead_zone_middle_m: float
    dead_zone_edge_m: float
    lure_colour: int
    lure_colour_edge: int
    fish_colour: int
    fish_colour_edge: int
    lag_s: float
    ping_rate_hz: float
    neighbour_percent: float
    draw_a: float


@dataclass(frozen=True)
class Opening:
    """Something that would widen the gain window: by how much [dB], whether that opens it, and a knob's change."""

    what: Said
    gain_db: float
    opens: bool
    change: Change | None = None


@dataclass(frozen=True)
class HoleCard:
    """The card. `settings` are where the knobs go; `float_m` how much cable hangs below the float [m]."""

    at: AtHole
    unit: UnitProfile
    lure: Lure
    scene: Scene
    lure_depth_m: float
    fish_length_m: float
    settings: Settings
    face_depth_m: float
    below_ice_m: float
    float_m: float
    picture_kind: str
    gains: Gains
    schools: tuple[School, ...]
    views: tuple[View, ...]
    numbers: Numbers
    unknowns: tuple[Unknown, ...]
    openings: tuple[Opening, ...]
    second_hole_m: float | None
    notes: tuple[Said, ...]

    @cached_property
    def situation(self) -> Situation:
        """What the coach would look at."""
        return situation_at(self.scene, self.unit, self.settings, self.lure, self.lure_depth_m)


def situation_at(scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, depth_m: float) -> Situation:
    """What the coach looks at, the unit locked on the bottom as it is."""
    zoom = picture.window(settings, scene.bottom_range_m)
    shown = picture.full_column(settings) if settings.beside else zoom
    return Situation(scene, unit, settings, lure, depth_m, shown, zoom)


def hole_card(at: AtHole, unit: UnitProfile, lure: Lure, second_lure: Lure | None = None) -> HoleCard:
    """The card for `unit` and `lure` at this hole; with a second lure, set by the weaker of the two.

    Raises ValueError when the hole is deeper than the unit's largest range. Sources: those of what it calls; the
    schools and rules are common practice, no source.
    """
    scene, depth = at.scene(), at.lure_at_m
    if scene.bottom_range_m > unit.ranges_m[-1]:
        raise InputError(
            f"depth_m is {at.depth_m:g} m: the largest range of the {unit.name} is {unit.ranges_m[-1]:g} m"
        )
    notes: list[Said] = []
    if second_lure is not None:
        lure, notes = _weaker_of(unit, scene, lure, second_lure)
    settings = _settled(scene, unit, lure, depth, at)
    views = _views(at, unit, settings, scene, depth)
    settings = next(one.settings for one in views if one.view == at.view)
    now = situation_at(scene, unit, settings, lure, depth)
    limits = now.limits
    unknowns, margins = _unknowns(at, unit, settings, lure, limits)
    gains = _gains(unit, limits, margins)
    settings = replace(settings, gain=_gain(unit, limits, gains, at.school))
    now = replace(now, settings=settings)
    fish = float(at.known("fish_length_m"))
    schools = tuple(
        _school(name, replace(now, settings=replace(settings, gain=_gain(unit, limits, gains, name))), fish)
        for name in ("lean", "rich")
    )
    views = tuple(replace(one, settings=replace(one.settings, gain=settings.gain)) for one in views)
    numbers = _numbers(now, fish)
    return HoleCard(
        at=at,
        unit=unit,
        lure=lure,
        scene=scene,
        lure_depth_m=depth,
        fish_length_m=fish,
        settings=settings,
        face_depth_m=at.advised_face_m,
        below_ice_m=at.advised_face_m - at.foot_of_hole_m,
        float_m=at.advised_face_m,
        picture_kind=unit.pictures[0],
        gains=gains,
        schools=schools,
        views=views,
        numbers=numbers,
        unknowns=unknowns,
        openings=() if gains.open else _openings(now),
        second_hole_m=_second_hole(at, numbers) if at.holes == 2 else None,
        notes=tuple(notes),
    )


def _weaker_of(unit: UnitProfile, scene: Scene, one: Lure, other: Lure) -> tuple[Lure, list[Said]]:
    t = ping.transmit(scene, unit, units.starting_settings(unit, scene.bottom_range_m))
    strength = [lure.target_strength(t.frequency_hz, t.sound_speed_m_s) for lure in (one, other)]
    weak = one if strength[0] <= strength[1] else other
    values = {"by": Quantity(abs(strength[0] - strength[1]), "dB")}
    return weak, [Said(f"Set by the weaker of the two, {weak.name}: it answers {{by}} less.", values)]


def _settled(scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float, at: AtHole) -> Settings:
    """Settings with which the coach has nothing to change, from the smallest range and the widest fitting beam on."""
    down = scene.bottom_range_m
    fits = [
        i for i, one in enumerate(unit.beams)
        if beam.footprint_diameter(down, one.width_deg) <= coach.WIDE_CONE_M
    ]  # fmt: skip
    order = sorted(range(len(unit.beams)), key=lambda i: unit.beams[i].width_deg)
    widest = max(fits, key=lambda i: unit.beams[i].width_deg, default=order[0])
    settings = replace(
        units.starting_settings(unit, down),
        beam=widest,
        power=max(range(len(unit.powers_w)), key=lambda i: unit.powers_w[i]),
        pulse=_pulse(unit, at.lure_gap_m, lure),
    )
    been = {settings}
    for _ in range(MOST_CHANGES):
        found = coach.verdicts(situation_at(scene, unit, settings, lure, depth_m))
        change = next((v.change for v in found if v.change and v.change.setting in vars(settings)), None)
        if change is None:
            break
        settings = replace(settings, **{change.setting: change.value}).checked(unit)  # type: ignore[arg-type]
        if settings in been:
            break
        been.add(settings)
    return _roomier(scene, unit, lure, depth_m, settings)


def _roomier(scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float, settings: Settings) -> Settings:
    """With a window that leaves little room, the first step of time-varied gain that widens it well."""
    width = situation_at(scene, unit, settings, lure, depth_m).limits.width_db
    if width > NARROW_DB or not np.isfinite(width):
        return settings
    steps = sorted(range(len(unit.tvg_db_decade)), key=lambda i: unit.tvg_db_decade[i])
    for step in steps[steps.index(settings.tvg) + 1 :]:
        quieter = replace(settings, tvg=step)
        if situation_at(scene, unit, quieter, lure, depth_m).limits.width_db >= width + WELL_DB:
            return quieter
    return settings


def _pulse(unit: UnitProfile, gap_m: float, lure: Lure) -> int:
    """The first pulse, or the longest shorter one that parts two jigs on one line with room for a skirt."""
    gap = lure.spacing_m if lure.form == "two jigs" else gap_m
    enough = [i for i, one in enumerate(unit.pulses) if 0.5 * 1410.0 * one.duration_s * 1.3 <= gap]
    if 0 in enough or not enough:
        return 0
    return max(enough, key=lambda i: unit.pulses[i].duration_s)


def _views(at: AtHole, unit: UnitProfile, settings: Settings, scene: Scene, depth_m: float) -> tuple[View, ...]:
    """The full column, and the window that suits: on the bottom for a lure near it, else free round the lure."""
    full = replace(settings, bottom_window_m=0.0, free_window_m=0.0, beside=False)
    found = [_view("full", "full column", full, unit, scene)]
    lure = depth_m - scene.face_depth_m
    chosen: tuple[str, Settings] | None = None
    bottom = sorted(h for h in unit.bottom_windows_m if h < full.range_m)
    bottom = [at.window_m] if at.window_m in bottom else bottom
    for height in bottom:
        wanted = replace(full, bottom_window_m=height)
        if picture.window(wanted, scene.bottom_range_m).top_m <= lure - ROOM_ABOVE_M:
            chosen = "bottom window", wanted
            break
    free = sorted(h for h in unit.free_windows_m if h < full.range_m)
    free = [at.window_m] if at.window_m in free else [h for h in free if h >= 6.0 * FOOT - 0.01] or free
    if free and (chosen is None or scene.bottom_depth_m - depth_m > ON_BOTTOM_M):
        top = float(np.clip(lure - 0.6 * free[0], 0.0, full.range_m - free[0]))
        chosen = "free window", replace(full, free_window_m=free[0], free_window_top_m=round(top, 2))
    if chosen is not None:
        found.append(_view("window", chosen[0], chosen[1], unit, scene))
    else:  # the unit has none that holds the lure: its full column serves for both
        found.append(replace(found[0], view="window"))
    return tuple(found)


def _view(view: str, kind: str, settings: Settings, unit: UnitProfile, scene: Scene) -> View:
    shown = picture.window(settings, scene.bottom_range_m)
    return View(view, kind, settings, shown.top_m, shown.bottom_m, picture.row_height(unit, shown))


def _unknowns(
    at: AtHole, unit: UnitProfile, settings: Settings, lure: Lure, limits: GainWindow
) -> tuple[tuple[Unknown, ...], tuple[float, float]]:
    """What each unknown may cost, dearest first, and how much [dB] all together draw floor and ceiling in."""
    scale = unit.gain
    costs: dict[str, tuple[float, float]] = {}
    for name, other in at.could_be().items():
        window = situation_at(other.scene(), unit, settings, lure, other.lure_at_m).limits
        up = 0.0
        if np.isfinite(window.floor) and np.isfinite(limits.floor):
            up = max(scale.decibels(window.floor) - scale.decibels(limits.floor), 0.0)
        costs[name] = up, max(scale.decibels(limits.ceiling) - scale.decibels(window.ceiling), 0.0)
    found = [Unknown(name, _plain(at.known(name)), sum(costs.get(name, (0.0, 0.0)))) for name in at.unknown()]
    # Unknowns are not all at their worst at once: they add as independent errors do.
    margins = tuple(float(np.sqrt(sum(cost[i] ** 2 for cost in costs.values()))) for i in (0, 1))
    return tuple(sorted(found, key=lambda one: -one.cost_db)), (margins[0], margins[1])


def _plain(value: object) -> float | str:
    if isinstance(value, tuple):
        return "none"
    return value if isinstance(value, (float, str)) else str(value)


def _gains(unit: UnitProfile, limits: GainWindow, margins: tuple[float, float]) -> Gains:
    scale = unit.gain
    seen = np.isfinite(limits.floor) and not limits.buried
    by = scale.step / scale.db_per_step
    firm_floor = limits.floor + margins[0] * by + SURE_SD * limits.floor_sd
    firm_ceiling = limits.ceiling - margins[1] * by - SURE_SD * limits.ceiling_sd
    return Gains(
        floor=float(limits.floor) if seen else None,
        ceiling=limits.ceiling,
        firm_floor=float(firm_floor) if seen else None,
        firm_ceiling=firm_ceiling,
        width_db=limits.width_db if seen else None,
        open=seen and step_inside(unit, limits.floor, limits.ceiling) is not None,
        firm=seen and step_inside(unit, firm_floor, firm_ceiling) is not None,
        floor_sd=limits.floor_sd,
        ceiling_sd=limits.ceiling_sd,
    )


def step_inside(unit: UnitProfile, floor: float, ceiling: float, share: float = 0.0) -> float | None:
    """The knob step `share` of the way into the window, to the next step up while that is inside; None if none is."""
    scale = unit.gain
    low, high = max(floor, scale.minimum), min(ceiling, scale.maximum)
    first = np.ceil((low - scale.minimum) / scale.step - 1e-9)
    last = np.floor((high - scale.minimum) / scale.step + 1e-9)
    if first > last:
        return None
    wanted = np.ceil((low + share * (high - low) - scale.minimum) / scale.step - 1e-9)
    return float(scale.minimum + np.clip(wanted, first, last) * scale.step)


def _gain(unit: UnitProfile, limits: GainWindow, gains: Gains, school: str) -> float:
    """Lean stands low in the window, rich at its upper end, where the first fuzz shows; the firm one goes first."""
    share = LEAN_SHARE if school == "lean" else 1.0
    if gains.firm and gains.firm_floor is not None:
        found = step_inside(unit, gains.firm_floor, gains.firm_ceiling, share)
        if found is not None:
            return found
    if gains.open:
        found = step_inside(unit, limits.floor, limits.ceiling, share)
        if found is not None:
            return found
    return limits.advised


def _colour(unit: UnitProfile, settings: Settings, over_first_db: float) -> int:
    """The ladder's step that an echo lights which lies so many dB above the first colour; 0 for none."""
    steps = unit.ladders[settings.ladder].steps
    over = over_first_db + steps[0].begins * unit.colour_step_db
    return int(sum(over >= step.begins * unit.colour_step_db for step in steps))


def _hidden(s: Situation, range_m: float) -> float:
    return float(receiver.taken_off(s.unit, s.settings, np.array([range_m]))[0])


def _over(s: Situation, strength_db: float, depth_m: float, aside_m: float = 0.0) -> float:
    """How far [dB] a target's mean echo lies above the first colour, filter and time-varied gain taken off."""
    t = s.transmission
    level = ping.target_echo_level(t, strength_db, depth_m, aside_m)
    off = _hidden(s, float(np.hypot(depth_m - s.scene.face_depth_m, aside_m)))
    return level - off - tuning.filter_loss(t, s.unit, s.settings) - s.first_colour()


def _seen(s: Situation, strength_db: float, depth_m: float) -> float:
    """Diameter [m] of the zone at `depth_m` in which a target of this strength is seen."""
    t = s.transmission
    first = s.first_colour() + tuning.filter_loss(t, s.unit, s.settings)

    def hidden(r: Floats) -> Floats:
        return receiver.taken_off(s.unit, s.settings, r)

    return 2.0 * float(tuning.seen_radius(t, strength_db, first, np.array([depth_m]), hidden)[0])


def _school(name: str, s: Situation, fish_m: float) -> School:
    t = s.transmission
    lure = s.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    fish = float(fish_target_strength(fish_m, t.frequency_hz))
    # Love 1971 the other way about: the length whose mean echo on axis just reaches the first colour.
    short = fish - _over(s, fish, s.lure_depth_m)
    smallest = 0.01 * 10.0 ** ((short + 0.9 * np.log10(t.frequency_hz / 1e3) + 62.0) / 19.1)
    return School(
        name,
        s.settings.gain,
        100.0 * tuning.lit_share(t, s.unit, s.settings, s.shown, s.first_colour()),
        _seen(s, lure, s.lure_depth_m),
        _seen(s, fish, s.lure_depth_m),
        float(smallest),
        _colour(s.unit, s.settings, _over(s, lure, s.lure_depth_m)),
    )


def _numbers(s: Situation, fish_m: float) -> Numbers:
    t, scene, unit, settings = s.transmission, s.scene, s.unit, s.settings
    lure = s.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    fish = float(fish_target_strength(fish_m, t.frequency_hz))
    width = unit.beams[settings.beam].width_deg
    below = max(s.lure_depth_m - scene.face_depth_m, 0.0)
    cone, cone_bottom = (beam.footprint_diameter(m, width) for m in (below, scene.bottom_range_m))
    dead = tuning.dead_zone_top(scene, t.resolution_m, np.array([0.0, 0.5 * cone_bottom]))
    rate = units.picture_rate(unit, settings, max_ping_rate(settings.range_m, t.sound_speed_m_s))

    def colour(strength: float, aside: float) -> int:
        return _colour(unit, settings, _over(s, strength, s.lure_depth_m, aside))

    return Numbers(
        true_depth_m=scene.bottom_depth_m,
        displayed_depth_m=scene.bottom_range_m,
        cone_at_lure_m=cone,
        cone_at_bottom_m=cone_bottom,
        lure_seen_m=_seen(s, lure, s.lure_depth_m),
        fish_seen_m=_seen(s, fish, s.lure_depth_m),
        fish_seen_at_bottom_m=_seen(s, fish, float(dead[0])),
        row_m=picture.row_height(unit, s.zoom),
        gap_m=max(t.resolution_m, picture.row_height(unit, s.zoom)),
        dead_zone_middle_m=scene.bottom_depth_m - float(dead[0]),
        dead_zone_edge_m=scene.bottom_depth_m - float(dead[1]),
        lure_colour=colour(lure, 0.0),
        lure_colour_edge=colour(lure, 0.5 * cone),
        fish_colour=colour(fish, 0.0),
        fish_colour_edge=colour(fish, 0.5 * cone),
        lag_s=receiver.lag(unit, settings, rate),
        ping_rate_hz=rate,
        neighbour_percent=100.0 * coach.neighbour_share(s, settings),
        draw_a=units.draw(unit, settings),
    )


def _second_hole(at: AtHole, numbers: Numbers) -> float | None:
    """How far [m] a second hole may be for the lure in it to stay in the zone; None if the holes would run together."""
    far = 0.5 * IN_THE_CONE * numbers.lure_seen_m
    return far if far >= at.hole_diameter_m + 0.05 else None


def _openings(s: Situation) -> tuple[Opening, ...]:
    """What would widen the window, most first: each by how much."""
    unit, settings, scene, lure = s.unit, s.settings, s.scene, s.lure
    base = room(s)
    tried: list[tuple[Said, Situation, Change | None]] = []

    def knob(text: str, name: str, at: int, **values: Quantity) -> None:
        tried.append((Said(text, values), replace(s, settings=replace(settings, **{name: at})), Change(name, at)))  # type: ignore[arg-type]

    for i, one in enumerate(unit.beams):
        if one.width_deg < 0.9 * unit.beams[settings.beam].width_deg:
            knob("The narrow beam, {width}", "beam", i, width=Quantity(one.width_deg, "degrees"))
    for i, pulse in enumerate(unit.pulses):
        if pulse.duration_s < 0.9 * unit.pulses[settings.pulse].duration_s:
            knob(f"The shorter pulse, {pulse.name}", "pulse", i)
    if settings.rejection + 1 < len(unit.rejections):
        top = len(unit.rejections) - 1
        knob("More interference rejection, {step}", "rejection", top, step=Quantity(top, "count"))
    for i, ladder in enumerate(unit.ladders):
        if ladder.first_begins != unit.ladders[settings.ladder].first_begins:
            knob(f"Another ladder: {ladder.name}", "ladder", i)
    for i, bins in enumerate(unit.noise_filters):
        if bins > unit.noise_filters[settings.noise_filter]:
            knob("The noise filter, step {step}", "noise_filter", i, step=Quantity(i, "count"))
    for i, slope in enumerate(unit.tvg_db_decade):
        if slope > unit.tvg_db_decade[settings.tvg]:
            knob("Time-varied gain, step {step}", "tvg", i, step=Quantity(i, "count"))
    larger = min(lure.diameter_m * 1.5, 0.02)
    if larger > lure.diameter_m:
        bigger = replace(lure, diameter_m=larger, length_m=min(lure.length_m * 1.5, 0.08))
        tried.append((Said("A lure half as large again, {size}", {"size": Quantity(1000.0 * larger, "mm")}),
                      replace(s, lure=bigger), None))  # fmt: skip
    lower = scene.face_depth_m + 0.3
    if lower < s.lure_depth_m - 1.0:
        tried.append((Said("The face lower, at {face}", {"face": Quantity(lower, "m")}),
                      replace(s, scene=replace(scene, face_depth_m=lower)), None))  # fmt: skip
    if scene.plankton != "none":
        waited = replace(s, scene=replace(scene, plankton="none"))
        tried.append((Said("Waiting until the plankton has gone down"), waited, None))
    found = [Opening(said, gained, base + gained >= 0.0, change) for said, one, change in tried
             if (gained := room(one) - base) > 0.3]  # fmt: skip
    # Of several steps of one knob, the best alone.
    best: dict[str, Opening] = {}
    for opening in found:
        key = opening.change.setting if opening.change else opening.what.text
        if key not in best or opening.gain_db > best[key].gain_db:
            best[key] = opening
    return tuple(sorted(best.values(), key=lambda one: -one.gain_db))


def room(s: Situation) -> float:
    """Width of the window [dB] as far as the knob reaches; very negative while the lure is out of the beam."""
    fresh = situation_at(s.scene, s.unit, s.settings, s.lure, s.lure_depth_m)
    limits, scale = fresh.limits, s.unit.gain
    if not np.isfinite(limits.floor):
        return -400.0
    low, high = max(limits.floor, scale.minimum), min(limits.ceiling, scale.maximum)
    return scale.decibels(high) - scale.decibels(low)
