"""How a watch looks from the front, by day and by night. Nothing yet: the stage is to come."""
