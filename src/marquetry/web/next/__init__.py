"""What to try, to measure or to look at next, one thing after another."""
