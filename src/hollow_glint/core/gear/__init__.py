"""What people own: sonar units with their knobs, colour ladders and settings, and lures."""
