"""The demo: Quillhaven, an invented museum of natural history. Everything in it is made up."""
