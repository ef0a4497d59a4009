"""Drawings out of the program: SVG, PDF, DXF, CSV and JSON. Each library is imported when its format is asked for."""
