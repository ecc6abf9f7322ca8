"""Geometry of the parts nobody sells. Nothing yet: the stage is to come."""
