"""Plates of rehearsal: the twin as it truly is, drawn with the marks that the bench uses."""
