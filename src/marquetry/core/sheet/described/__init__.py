"""What each part of a watch is described by, in tables; `core/sheet/parts.py` collects them."""
