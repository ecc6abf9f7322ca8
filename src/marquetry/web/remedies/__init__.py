"""What mends a watch."""
