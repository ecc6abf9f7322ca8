"""The exercises, in the order in which a watch meets them. Adding one means one file, and one line here."""

from marquetry.core.rehearsal.exercise import AnyExercise
from marquetry.core.rehearsal.exercises.diagnose import Diagnose
from marquetry.core.rehearsal.exercises.feet import FeetOff
from marquetry.core.rehearsal.exercises.gasket import GasketAndCrystal
from marquetry.core.rehearsal.exercises.hands import PressHands
from marquetry.core.rehearsal.exercises.measure import MeasureNext
from marquetry.core.rehearsal.exercises.midnight import FindMidnight
from marquetry.core.rehearsal.exercises.order import WhatFirst
from marquetry.core.rehearsal.exercises.section import ReadSection
from marquetry.core.rehearsal.exercises.spacer import WhichSpacer
from marquetry.core.rehearsal.exercises.stem import CutStem
from marquetry.core.values.errors import NotFoundError

EXERCISES: tuple[AnyExercise, ...] = (
    ReadSection(),
    MeasureNext(),
    WhatFirst(),
    FeetOff(),
    WhichSpacer(),
    FindMidnight(),
    PressHands(),
    GasketAndCrystal(),
    CutStem(),
    Diagnose(),
)
EXERCISE_BY_KEY = {exercise.key: exercise for exercise in EXERCISES}


def exercise(key: str) -> AnyExercise:
    """The exercise of that name; NotFoundError where there is none."""
    if key not in EXERCISE_BY_KEY:
        raise NotFoundError(f"exercise “{key[:40]}”")
    return EXERCISE_BY_KEY[key]


def exercises_for(step: str) -> tuple[AnyExercise, ...]:
    """Those that rehearse a step of the bench."""
    return tuple(one for one in EXERCISES if step in one.steps)
