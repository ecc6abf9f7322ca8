"""Rehearsal: what is practised, the exercises, and a play at hand."""
