"""From a photo of a screen to a recording: where the picture stands in the photo, how the light fell on it, which step
of the ladder each cell shows, and where that is not sure. Pixels in, levels out; nothing here reads a file."""
