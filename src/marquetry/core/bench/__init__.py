"""The steps of building a watch, their gates and ledgers. Nothing yet: the stage is to come."""
