"""Drawings of trade: orders on their way, where money went, codes on labels."""
