"""A dry fit: two or more parts laid together by hand, nothing pressed, cut or glued, to see whether they fit.

On the screen it is a try, in files `tried`. Which dry fits there are, and which checks each settles, is the
model's table; here is only what one is.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DryFit:
    """One dry fit: what is done, how long it takes in minutes, and the names of the checks it settles.

    `parts` are the slots whose parts are handled; it lapses when one of them is replaced or altered.
    """

    key: str
    title: str
    how: str
    minutes: float
    settles: tuple[str, ...]
    parts: tuple[str, ...]
