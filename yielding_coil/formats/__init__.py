"""File formats: read and write, refuse with line numbers."""
