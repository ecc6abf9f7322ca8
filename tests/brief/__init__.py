"""Tests of the brief: wishes, answer, sign-off."""
