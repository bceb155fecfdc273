"""Scenes to search for real: water with three schools, who searches it and how, and what is to be said of it after."""
