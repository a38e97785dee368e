"""What is kept and sent as JSON: checked, versioned, and turned into values of the core."""
