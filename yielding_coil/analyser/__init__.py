"""The link to an impedance analyser, and a simulated one that speaks the same."""
