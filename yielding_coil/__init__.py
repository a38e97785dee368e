"""Yielding Coil: from a swept wire to parts made by hand."""

VERSION = "0.1.0"
