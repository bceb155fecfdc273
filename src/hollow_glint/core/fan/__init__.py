"""The forward fan: steered beams in one upright plane, how its picture is made, set, judged and measured."""
