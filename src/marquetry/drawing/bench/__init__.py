"""Drawings of the bench: the place where a step happens, and the stem with its ledger."""
