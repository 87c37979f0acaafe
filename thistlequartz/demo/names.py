"""How to sign in to the demo."""

NAMES = ("steward", "deputy", "clerk", "approver", "reader")
PASSWORD = "quartz-on-thistle"  # noqa: S105 - the demo's, printed by ./start
