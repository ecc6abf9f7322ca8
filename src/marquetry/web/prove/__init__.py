"""Prove: what a finished watch is tried by, heard, held, looked at, and whether it may be handed over."""
