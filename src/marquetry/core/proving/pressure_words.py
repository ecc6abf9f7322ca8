"""What a dry test's verdict means, where to look when it leaks, and what may be claimed after it."""

from marquetry.core.proving.pressure import SHORTEST_S, Hold, HoldVerdict
from marquetry.core.values.figures import figure

METRES_A_BAR = 10.0
SAID: dict[HoldVerdict, str] = {
    "tight": "Tight: the case kept its give.",
    "leak": "Leak: the case goes back while the pressure stands. Air is getting in.",
    "unsure": "Unsure: the doubt reaches over the limit. Hold longer.",
    "unreadable": "Unreadable: the give is lost in its scatter. Seat the gauge anew, or test higher.",
    "short": f"Too short: hold {SHORTEST_S:g} s at least, settling included.",
}
WHERE = (
    ("Crown", "Pressed home or screwed down? Its gasket there, greased, the tube's end clean?"),
    (
        "Back",
        "Gasket in its groove, not pinched, not twisted; back tightened by its mark; groove without grit.",
    ),
    ("Crystal", "Gasket between glass and bore all round; glass level; no chip at its edge."),
    ("Pushers and tubes", "Each has gaskets of its own; a tube pressed in anew leaks around itself."),
)
"""Where to look when it leaks, in the order in which it is usual."""
METHODS = {
    "dry chamber": "Dry chamber: air pressed onto the case, the give of the case watched",
    "bubbles": "Bubbles: under water in a chamber, looked at as the pressure goes",
    "warm plate and a drop": "Warm plate and a cold drop on the glass: mist inside tells that damp got in",
}
"""How a test was made whose outcome is typed; only the first two put pressure on."""
PLACES = ("crown", "back", "crystal", "pusher or tube", "not found")
"""Where a case that did not hold was seen to leak."""
CAUTION = (
    "Pressure equipment: local rules and licensed practice come first. Eyes guarded, the chamber closed. "
    "A figure counts only for what was tested, as it was tested; this is not a diving certificate."
)


def hold_words(found: Hold) -> list[str]:
    """The verdict, and the figures it rests on."""
    lines = [
        SAID[found.verdict],
        f"held {figure(found.held, 2, 'bar')} for {figure(found.seconds, 0, 's')}, settling included",
    ]
    if found.loss is not None and found.u is not None and found.deflection is not None:
        loss, doubt = figure(100.0 * found.loss, 2, "%"), figure(200.0 * found.u, 2, "%")
        lines.append(f"loss {loss} ± {doubt} a minute of {figure(found.deflection, 1, 'µm')}")
    return lines


def metres(bar: float) -> float:
    """The depth of still water in metres at whose pressure a case was held."""
    return bar * METRES_A_BAR
