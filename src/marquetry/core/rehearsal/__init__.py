"""The risky cuts and presses, practised on a simulated watch. Nothing yet: the stage is to come."""
