"""The harbour office."""
