"""The other doors: files that come in, and whatever else is not the desk."""
