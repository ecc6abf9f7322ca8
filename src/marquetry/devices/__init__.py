"""Simulated stand-ins for the bench's instruments; each says that it is one."""
