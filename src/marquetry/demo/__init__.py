"""The demo workshop, Kittiwake Bench: invented watches from invented parts, each with its own difficulty."""
