"""The service API, by which other systems judge, save and read records with a token."""
