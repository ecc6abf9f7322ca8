"""Tests of the face: looks read and laid out, night, wrist, what goes together."""
