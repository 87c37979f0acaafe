"""Engines: each translates the kernel, and nothing else, or refuses by name."""
