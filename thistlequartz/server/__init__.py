"""The web service: Django apps, one for each noun of the product."""
