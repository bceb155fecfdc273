"""The Card step: the hole card, in the numbers of the unit in hand."""
