"""The workshop's rules, schools and instruments."""
