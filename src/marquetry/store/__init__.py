"""Watches on disk: SQLite through `sqlite3`, plain SQL, every save a revision that stays."""
