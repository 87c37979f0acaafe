"""Records: what clerks fill in, judged again on every save and submit."""
