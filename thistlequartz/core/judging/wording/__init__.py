"""Wording: reasons in words, built only when somebody asks for them."""
