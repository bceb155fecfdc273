"""The Strike step: runs and their debriefs, the cadence lab, the rise line and the strike sheet."""
