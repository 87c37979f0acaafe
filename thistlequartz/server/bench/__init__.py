"""The bench: judging without storing. The desk asks through it as well while people type."""
