"""What is tried and looked at by hand: every function, every crown position, and all under the loupe."""

from dataclasses import dataclass

from marquetry.core.bench.situation import Situation

FORBIDDEN = "Not between nine in the evening and three: the calendar is in gear."


@dataclass(frozen=True, slots=True)
class Tried:
    """One thing to try: `crown` says where the crown stands meanwhile, `how` what is done and seen."""

    key: str
    label: str
    crown: str
    how: str
    caution: str = ""


def functions_of(s: Situation) -> list[Tried]:
    """Everything this watch can do, in the order of the crown's positions, from pressed in to drawn out."""
    functions = s.names("movement.functions")
    found = (
        [
            Tried(
                "rotor",
                "Rotor turns and winds",
                "in",
                "Turn the watch slowly: it falls by its own weight, both ways, nothing scrapes.",
            )
        ]
        if s.has("rotor") or s.build.at("movement.face_to_rotor") is not None
        else []
    )
    if "hand_winding" in functions:
        found.append(
            Tried("winding", "Winding by the crown", "in", "Twenty turns: even, without a slip or a catch.")
        )
    quick = [
        Tried(
            f"quick_{name}",
            f"Quick-set of the {label}",
            "first",
            f"Through all of them once; it stops dead on each. {extra}".strip(),
            caution,
        )
        for name, label, extra, caution in (
            ("date", "date", "", FORBIDDEN),
            ("day", "day", "", FORBIDDEN),
            ("h24", "24-hour hand", "Once round: it must not take the hour hand along.", ""),
        )
        if name in functions
    ]
    found += quick
    found.append(
        Tried(
            "setting",
            "Setting the hands",
            "last",
            "Forwards through twelve hours: no drag, no jump, hands stay together.",
        )
    )
    if "hacking" in functions:
        found.append(
            Tried(
                "hacking",
                "Seconds stop",
                "last",
                "They stop when it is drawn and start when it is pressed in.",
            )
        )
    found.append(
        Tried(
            "home",
            "Crown home",
            "in",
            "Pressed or screwed home all round, no gap, and it does not turn the hands.",
        )
    )
    if s.has("bezel"):
        found.append(
            Tried(
                "bezel",
                "Bezel turns",
                "in",
                "Once round: even clicks, index at twelve, no play that can be heard.",
            )
        )
    return found


LOUPE = (
    Tried(
        "dust",
        "Dust under the crystal",
        "",
        "Light from the side, watch turned slowly: every speck throws a shadow.",
    ),
    Tried("dial", "Dial and hands", "", "Marks of tweezers, prints, lume that crumbles, a hand that leans."),
    Tried("crystal", "Crystal", "", "Chips at the edge, film still on, scratches; seated level all round."),
    Tried("case", "Case, lugs and back", "", "Slips of tools at lugs and back; bars sprung home."),
)
"""What is looked at under the loupe, last of all."""
