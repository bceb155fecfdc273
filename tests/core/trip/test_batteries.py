"""A battery through a day: volts, age, turning down, the spare; and the entries of a calendar."""

from __future__ import annotations

import datetime
from dataclasses import replace

import icalendar
import pytest

from hollow_glint.core.trip.batteries import Battery, Charged, Draw, Use, charge_by_volts, hours_of, through_the_day
from hollow_glint.core.trip.charging import charging
from hollow_glint.core.trip.power import lasts
from hollow_glint.formats import calendar
from hollow_glint.formats.calendar import Entry

BIG = Battery("Big lead", "lead", 9.0, charges=60)
DRAW = Draw(0.9, 0.8)
COLD = Use(540.0, 900.0, -18.0, 1.0, 780.0)


def test_volts_tell_lead_well_and_lithium_in_the_middle_hardly():
    # 12.24 V at rest is 60 % for lead-acid (Reddy 2011, from memory).
    lead = charge_by_volts(BIG, 12.24)
    assert lead.likely == pytest.approx(0.6) and lead.low < 0.6 < lead.high
    flat = charge_by_volts(replace(BIG, chemistry="lithium iron phosphate"), 13.15)
    assert flat.high - flat.low > 2.0 * (lead.high - lead.low)
    assert charge_by_volts(replace(BIG, nominal_v=6.0), 6.12).likely == pytest.approx(lead.likely)
    assert charge_by_volts(BIG, 13.5) == Charged(1.0, 1.0, 1.0)
    with pytest.raises(ValueError, match=r"volts is 3\.7: accepted are values from 6 to 18 V"):
        charge_by_volts(BIG, 3.7)


def test_age_and_what_is_in_it_shorten_the_hours():
    new = hours_of(replace(BIG, charges=0), 1.0, -10.0)
    assert new == lasts("lead", 9.0, 20.0, 1.0, -10.0).hours
    assert hours_of(replace(BIG, charges=300), 1.0, -10.0).likely == pytest.approx(0.8 * new.likely)
    half = hours_of(replace(BIG, charges=0), 1.0, -10.0, Charged(0.4, 0.5, 0.6))
    assert half.likely == pytest.approx(0.5 * new.likely) and half.low == pytest.approx(0.4 * new.low)


def test_what_is_dead_before_the_day_ends_says_when_and_what_helps():
    found = through_the_day(BIG, DRAW, COLD, (Battery("Spare", "lead", 7.0, spare=True),))
    assert found.lives == "no" and 540.0 < found.dead_min.low < found.dead_min.likely < 900.0
    words = [one.text for one in found.helps]
    assert any("from the start" in one for one in words) and any("spare (Spare)" in one for one in words)
    spare = next(one.values for one in found.helps if "spare" in one.text)
    assert spare["until"].value > found.dead_min.likely and spare["least"].value > found.dead_min.low
    assert through_the_day(replace(BIG, capacity_ah=60.0), DRAW, COLD).lives == "yes"


def test_turned_down_at_sunset_what_is_left_lasts_longer_by_the_ratio_of_hours():
    bright, dim = (hours_of(BIG, DRAW.at(light), -18.0).likely for light in (1.0, 0.3))
    plain, down = (
        through_the_day(BIG, DRAW, replace(COLD, sunset_min=660.0, turned_down=one)).dead_min.likely
        for one in (None, 0.3)
    )
    assert plain == pytest.approx(540.0 + 60.0 * bright)
    assert down == pytest.approx(540.0 + 60.0 * (2.0 + (1.0 - 2.0 / bright) * dim))
    early = through_the_day(BIG, DRAW, replace(COLD, sunset_min=1400.0))
    assert not any("after sunset" in one.text for one in early.helps)


def test_charging_is_entered_after_the_outing_and_monthly_off_season_and_opens_in_icalendar():
    lithium = Battery("Small lithium", "lithium iron phosphate", 8.0)
    wanted = charging([BIG, lithium], "2026-12-05", "2027-04-10")
    assert [one.date for one in wanted] == ["2026-12-05", "2027-05-10"] * 2
    entries = [Entry(one.title, one.date, None, note=one.note, months=one.months) for one in wanted]
    entries.append(Entry("Kaldmere", "2026-12-05", 540.0, 360.0, "Back at three; tell someone."))
    stamp = datetime.datetime(2026, 11, 27, 12, 0, tzinfo=datetime.UTC)
    text = calendar.write(entries, stamp)
    events = icalendar.Calendar.from_ical(text).walk("VEVENT")
    assert [str(one["summary"]) for one in events][-1] == "Kaldmere" and len(events) == 5
    assert events[0]["dtstart"].dt == datetime.date(2026, 12, 5)
    assert events[-1]["dtstart"].dt == datetime.datetime(2026, 12, 5, 9, 0)
    assert events[-1]["dtend"].dt == datetime.datetime(2026, 12, 5, 15, 0)
    assert events[1]["rrule"]["count"] == [7] and "never charged below freezing" in events[2]["description"]
    # Written again, entries are the same ones.
    again = icalendar.Calendar.from_ical(calendar.write(entries, stamp)).walk("VEVENT")
    assert [one["uid"] for one in again] == [one["uid"] for one in events] and len({one["uid"] for one in events}) == 5
    with pytest.raises(ValueError, match="outing is 'soon'"):
        charging([BIG], "soon", "2027-04-10")
