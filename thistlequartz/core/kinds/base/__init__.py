"""The base of every kind of rule: its document, its formulas, its words and its mutations."""
