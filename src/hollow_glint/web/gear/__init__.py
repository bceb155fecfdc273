"""The Gear step: units, lures, and calibrating a unit with a known jig."""
