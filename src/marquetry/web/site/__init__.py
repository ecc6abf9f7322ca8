"""What every page stands on: the application, its guards, errors, jobs, and the frame of a page."""
