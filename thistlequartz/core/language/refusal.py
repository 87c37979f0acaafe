"""How a translator says that it cannot say something: by the name of the node or function."""


class NotTranslated(Exception):
    """Something that a translator does not know; the caller judges it with another engine."""

    def __init__(self, translator: str, name: str) -> None:
        super().__init__(f"{translator} does not know “{name}”.")
        self.translator = translator
        self.name = name
