"""Forms in draft: their fields and rules, as stewards write them."""
