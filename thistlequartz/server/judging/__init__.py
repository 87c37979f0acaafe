"""Judging, as screens and services ask for it: no models, and below every app that asks."""
