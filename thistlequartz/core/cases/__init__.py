"""Cases: running them, telling how they differ from what is expected, and exchanging them."""
