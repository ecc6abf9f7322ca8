"""Where a build stands, as its screens ask for it: the state of every step, and the step at hand."""

from marquetry.core.bench.run import Run
from marquetry.core.sheet.entries import Json
from marquetry.web.build.screen import STATE_WORDS, why_not_yet


def state_document(run: Run) -> dict[str, Json]:
    """By step: its state, the word for it, why it does not go on, and whether something still has to set."""
    return {
        "here": run.here,
        "settled": run.settled,
        "steps": {
            name: [
                stand.state,
                STATE_WORDS[stand.state],
                why_not_yet(run, stand),
                stand.timer is not None or bool(stand.asks_again),
            ]
            for name, stand in run.stands.items()
        },
    }
