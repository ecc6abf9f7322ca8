"""All steps of a build as a band of inlaid lozenges: settled ones let in, the one at hand raised, groups named."""

from collections.abc import Iterator
from itertools import groupby

from marquetry.core.bench.run import SETTLED, Run
from marquetry.core.bench.step import GROUP_LABELS
from marquetry.drawing.scene import Label, Line, Mark, Scene

BAND_WIDTH, BAND_HEIGHT = 400.0, 17.0
LEVEL = 10.4
HALF = 2.5
TYPE_HIGH, LETTER = 4.4, 2.2
"""Height of the names' type, and how wide a letter is about, mm."""
CLASSES = {
    "done": "step-done", "passed": "step-done", "skipped": "step-skipped", "failed": "step-failed", "open": "step-open",
    "waiting": "step-waits",
}  # fmt: skip


def progress_scene(run: Run, here: str) -> Scene:
    """The band; `here` is the step at hand."""
    stands = list(run.stands.values())
    pitch = BAND_WIDTH / max(len(stands), 1)
    settled = sum(stand.state in SETTLED for stand in stands)
    words = f"{settled} of {len(stands)} steps are settled."
    marks = (*_groups(run, pitch), *_lozenges(run, here, pitch))
    return Scene(BAND_WIDTH, BAND_HEIGHT, "The build so far", words, marks)


def _groups(run: Run, pitch: float) -> Iterator[Mark]:
    place = 0
    for group, found in groupby(run.stands.values(), key=lambda stand: stand.step.group):
        count = len(list(found))
        left, right = place * pitch, (place + count) * pitch
        yield Line(((left + 0.6, LEVEL), (right - 0.6, LEVEL)), "step-vein")
        words = GROUP_LABELS[group].lower()
        if len(words) * LETTER <= right - left:
            yield Label(((left + right) / 2, 1.2), words, "quiet", TYPE_HIGH, "middle")
        place += count


def _lozenges(run: Run, here: str, pitch: float) -> Iterator[Mark]:
    half = min(HALF, pitch * 0.46)
    for number, stand in enumerate(run.stands.values()):
        x = (number + 0.5) * pitch
        reach = half * 1.7 if stand.step.id == here else half
        corners = ((x, LEVEL - reach), (x + reach * 0.8, LEVEL), (x, LEVEL + reach), (x - reach * 0.8, LEVEL))
        classes = f"{CLASSES[stand.state]}{' step-here' if stand.step.id == here else ''}"
        yield Line(corners, classes, closed=True, title=f"{stand.step.title}: {stand.state}")
