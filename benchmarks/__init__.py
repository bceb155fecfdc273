"""Measures of speed and memory, printed and kept in docs/benchmarks.md. Figures and ratios, never tests."""
