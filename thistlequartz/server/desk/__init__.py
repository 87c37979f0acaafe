"""The desk: what waits for one person, in every form in use."""
