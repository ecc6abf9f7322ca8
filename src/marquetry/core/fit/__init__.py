"""Whether the parts go together: every access to a build traced, levels, checks, findings, the report."""

DOOR = (
    "model",
    "trace",
    "plausible",
    "rules",
    "rule_sets",
    "schools",
    "levels",
    "footing",
    "checks.check",
    "checks.formula",
    "checks.words",
    "checks.feet",
    "checks.hands",
    "checks.dial",
    "finding",
    "figures",
    "report",
    "sentence",
    "columns",
    "stack",
    "measure_next",
    "squeeze_pairs",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
