"""The computation: NumPy and SciPy only, no input or output."""
