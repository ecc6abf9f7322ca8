"""Made parts worked out lately: page, preview and files of one state ask for the same solid."""

from collections import OrderedDict
from threading import Lock, Thread

from marquetry.core.making.body import MadeBody, made_body
from marquetry.core.making.parts import MadePart
from marquetry.formats.made_files import load_writers

MOST_KEPT = 48


class Bodies:
    """The latest bodies by part and sheet; older ones are forgotten."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, MadeBody] = OrderedDict()
        self._guard = Lock()
        self._warmed = False

    def warm(self) -> None:
        """Begin to load what files are written with, so that the first download does not wait two seconds."""
        if not self._warmed:
            self._warmed = True
            Thread(target=load_writers, daemon=True).start()

    def of(self, part: MadePart) -> MadeBody:
        """The part worked out once; DimensionError, naming the field, where it cannot be made."""
        key = f"{part.name} {part.build.text}"
        with self._guard:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        body = made_body(part)
        with self._guard:
            self._held[key] = body
            while len(self._held) > MOST_KEPT:
                self._held.popitem(last=False)
        return body
