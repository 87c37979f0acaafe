"""Commands of jobs."""
