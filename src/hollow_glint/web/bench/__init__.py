"""The Bench step: live benches and their stream, kept scenes, guided exercises."""
