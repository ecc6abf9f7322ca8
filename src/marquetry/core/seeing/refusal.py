"""A picture that cannot be measured, in words that say what to do."""

from marquetry.core.values.errors import MarquetryError


class PictureError(MarquetryError, ValueError):
    """A picture without an answer: `what` is at fault (card, blur, bent, ground, part, file)."""

    def __init__(self, what: str, text: str) -> None:
        self.what = what
        super().__init__(text)
