"""Build: the bench view, one step a screen; its log, timers, mishaps and work sheet."""
