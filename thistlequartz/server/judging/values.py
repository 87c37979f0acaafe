"""Values as screens and services send them, and as they are sent to them."""

Entered = str | int | float | bool | list[str] | None
"""What is sent for one field. Decimals best travel as strings; several choices as a list."""
Values = dict[str, Entered]
