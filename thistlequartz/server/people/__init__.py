"""Who uses the product, and what each role may do."""
