"""The impact of a new version of a form on stored records."""
