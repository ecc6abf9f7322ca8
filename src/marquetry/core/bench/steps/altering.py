"""Steps for what is done to bought parts: one for each alteration that the sheet plans.

Feet off, holes drilled, a pinion out and a stem cut have steps of the table; every other alteration is one step
of its own, first of its part's group, before that part is fitted.
"""

from dataclasses import replace

from marquetry.core.bench.situation import STEP_OF_KIND, Situation, alteration_step
from marquetry.core.bench.step import BenchGroup, BenchStep, StepIds
from marquetry.core.bench.steps.wording import EYES
from marquetry.core.sheet.statements import Alteration
from marquetry.core.values.figures import figure

GROUP_OF: dict[str, BenchGroup] = {
    "movement": "movement", "calendar_disc": "movement", "rotor": "movement",
    "dial": "dial", "dial_adapter": "dial", "spacers": "dial",
    "hands": "hands",
    "holder": "casing",
    "crown": "stem", "crown_gasket": "stem", "stem": "stem",
    "back_gasket": "close",
    "bezel_insert": "outside", "strap": "outside", "spring_bars": "outside",
}  # fmt: skip
"""The group of a part's alterations; a part that is not named is the case's."""
FITTING: dict[str, tuple[str, ...]] = {
    "movement": ("trial_dial",), "calendar_disc": ("swap_disc", "trial_dial"), "rotor": ("swap_rotor",),
    "dial": ("trial_dial",), "dial_adapter": ("set_adapter",), "spacers": ("trial_dial",),
    "hands": ("press_h24", "press_hour", "press_minute", "press_seconds"),
    "holder": ("fit_holder",),
    "crown": ("trial_stem",), "crown_gasket": ("crown_seal", "trial_stem"), "stem": ("trial_stem",),
    "back_gasket": ("close_back",),
    "bezel_insert": ("stick_insert",), "strap": ("fit_strap",), "spring_bars": ("fit_strap",),
    "chapter_ring": ("seat_ring",), "crystal": ("press_crystal",), "crystal_gasket": ("press_crystal",),
    "bezel": ("fit_bezel",), "case": ("seat_ring", "press_crystal", "case_up"), "case_back": ("close_back",),
}  # fmt: skip
"""The steps that fit an altered part: nothing is filed on a part that is built in."""
OPENED = ("open_case", "look_over_case")
"""What comes before any work on the case's parts."""


def with_alterations(table: tuple[BenchStep, ...], situation: Situation) -> tuple[BenchStep, ...]:
    """The table with a step for each alteration that has none of the table's, in its group's front."""
    made = [_step(one) for one in situation.alterations if one.kind not in STEP_OF_KIND]
    if not made:
        return table
    before: dict[str, tuple[str, ...]] = {}
    for alteration in situation.alterations:
        if alteration.kind not in STEP_OF_KIND:
            for fitted in FITTING.get(_part(alteration), ()):
                before[fitted] = (*before.get(fitted, ()), alteration_step(alteration))
    steps: list[BenchStep] = []
    for place, step in enumerate(table):
        first = not place or table[place - 1].group != step.group
        if first and step.group not in {"case", "prepare"}:
            steps += [one for one in made if one.group == step.group]
        steps.append(replace(step, after=_also(step.after, before[step.id])) if step.id in before else step)
        last = place + 1 == len(table) or table[place + 1].group != step.group
        if step.id == "open_case" or (last and step.group == "prepare"):
            steps += [one for one in made if one.group == step.group]
    return tuple(steps)


def _also(after: StepIds, more: tuple[str, ...]) -> StepIds:
    if isinstance(after, tuple):
        return (*after, *more)
    return lambda situation: (*after(situation), *more)


def _part(alteration: Alteration) -> str:
    return alteration.changes[0].path.partition(".")[0] if alteration.changes else ""


def _step(alteration: Alteration) -> BenchStep:
    part = _part(alteration)
    group: BenchGroup = GROUP_OF.get(part, "case") if part else "prepare"
    return BenchStep(
        id=alteration_step(alteration),
        title=alteration.title,
        group=group,
        why="It was planned at the desk; the part is still as it was bought.",
        how="A little at a time, trying between. Read it afterwards: what was planned is not what it is.",
        wrong="Too much in one go. What is off does not grow again.",
        parts=(part,) if part else (),
        after=OPENED if group == "case" else (),
        gates=("check_movement",),
        shows=(part,) if part else (),
        tools=("loupe", "fine_file"),
        caution=f"{EYES} Chips and dust kept out of the movement.",
        minutes=10,
        figure=lambda _: _target(alteration),
    )


def _target(alteration: Alteration) -> tuple[str, str] | None:
    """The size it is to come to, told large."""
    for change in alteration.changes:
        value = change.after.get("value") if isinstance(change.after, dict) else change.after
        if isinstance(value, int | float) and not isinstance(value, bool):
            return ("To", figure(float(value), 2, "mm"))
    return None
