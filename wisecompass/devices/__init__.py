"""Plotters and calipers: real ones and simulated ones behind the same serial port."""
