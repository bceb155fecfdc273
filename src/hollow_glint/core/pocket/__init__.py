"""The pocket sheet: what a phone on the ice needs and cannot compute, worked out beforehand for every depth."""
