"""Long work in the background: it shows how far it is, can be left, and can be stopped."""
