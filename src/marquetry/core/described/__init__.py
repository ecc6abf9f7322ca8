"""What each part of a watch is described by, in tables; `core/parts.py` collects them."""
