"""Made parts worked out once: page, preview and files of one state ask for the same solid."""

from threading import Thread

from marquetry.core.making.body import MadeBody, made_body
from marquetry.core.making.parts import MadePart
from marquetry.formats.made_files import load_writers
from marquetry.store.statecache import StateCache


class Bodies:
    """Bodies by part, sheet and the rules in force: where holes are drilled hangs on how far feet bend."""

    def __init__(self, kept: StateCache) -> None:
        self._kept, self._warmed = kept, False

    def warm(self) -> None:
        """Begin to load what files are written with, so that the first download does not wait two seconds."""
        if not self._warmed:
            self._warmed = True
            Thread(target=load_writers, daemon=True).start()

    def of(self, part: MadePart) -> MadeBody:
        """The part worked out; DimensionError, naming the field, where it cannot be made."""
        return self._kept.pure(made_body, part)
