"""The rules and what they mean: pure Python, with no framework, clock, files or network."""
