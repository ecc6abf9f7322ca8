"""Measuring cards, what to measure next, and the caliper stand-in."""
