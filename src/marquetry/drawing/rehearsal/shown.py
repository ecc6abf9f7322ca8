"""What a rehearsal shows: a plate, and which of its marks go which way while a key is held."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.drawing.scene import Cluster, Mark, Scene


@dataclass(frozen=True, slots=True)
class Motion:
    """How marks move for one unit of a held move: mm on the paper, to the right and up."""

    right: float
    up: float


@dataclass(frozen=True, slots=True)
class Shown:
    """A plate; `motions` by the move that is held, which moves the cluster of that name."""

    scene: Scene
    motions: Mapping[str, Motion] = field(default_factory=dict)


def moving(what: str, *marks: Mark) -> Cluster:
    """Marks that go along while that move is held."""
    return Cluster(marks, "moving", {"moves": what})
