"""Impact: what a draft, a rule or an earlier release would mean for stored records."""
