"""Remedies: what can be done about a clash or a tight fit, each tried by the whole report first."""
