"""Turns in space, and the map that a camera makes of a plane."""

import math

import numpy as np

from marquetry.core.seeing.arrays import PlanPlaces, Reals


def turn_by(by: Reals) -> Reals:
    """The turn, 3 × 3, about an axis by its length in radians, a unit of angle."""
    angle = float(np.linalg.norm(by))
    if angle < 1e-12:  # no turn
        return np.eye(3)
    x, y, z = by / angle
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    return np.asarray(np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross)


def axis_of(turn: Reals) -> Reals:
    """The axis of a turn, as long as its angle in radians; the other way round of `turn_by`, unit by unit."""
    angle = math.acos(max(-1.0, min(1.0, (float(np.trace(turn)) - 1) / 2)))
    odd = np.array([turn[2, 1] - turn[1, 2], turn[0, 2] - turn[2, 0], turn[1, 0] - turn[0, 1]])
    if math.sin(angle) > 1e-6:  # else a half turn: the axis from the even part
        return np.asarray(odd * angle / (2 * math.sin(angle)))
    if angle < 1:
        return np.zeros(3)
    even = (turn + np.eye(3)) / 2
    column = int(np.argmax(np.diag(even)))
    return np.asarray(even[:, column] / math.sqrt(even[column, column]) * angle)


def homography(known: PlanPlaces, seen: PlanPlaces) -> Reals:
    """The map, 3 × 3, from places in a plane (mm) to where a camera of focal length 1 sees them."""
    rows = []
    for (x, y), (u, v) in zip(known / 40, seen, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y, -u], [0, 0, 0, x, y, 1, -v * x, -v * y, -v]]
    view = np.linalg.svd(np.array(rows))[2][-1].reshape(3, 3)
    return np.asarray(view @ np.diag([1 / 40, 1 / 40, 1.0]))
