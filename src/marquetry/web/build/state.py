"""Where a build stands, as its screens ask for it: the state of every step, the step at hand, timers."""

from marquetry.core.bench.run import Run
from marquetry.core.sheet.entries import Json
from marquetry.web.build.screen import STATE_WORDS, why_not_yet


def state_document(run: Run) -> dict[str, Json]:
    """States by step with their words; `mark` changes with every entry."""
    return {
        "mark": len(run.entries),
        "here": run.here,
        "settled": run.settled,
        "steps": {
            name: [stand.state, STATE_WORDS[stand.state], why_not_yet(run, stand)]
            for name, stand in run.stands.items()
        },
    }
