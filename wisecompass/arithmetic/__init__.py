"""The number systems in which a construction can run, and the functions that work in all of them.

A construction uses ``+ - * /`` and the functions of this package; it never imports ``math`` or NumPy.
"""

from wisecompass.arithmetic.number import (
    Number,
    absolute,
    acos_deg,
    asin_deg,
    atan2_deg,
    cos_deg,
    elliptic_e,
    focal_arc,
    hypot,
    larger,
    log,
    pi_times,
    pick,
    root,
    roughly,
    sign_of,
    sin_deg,
    smaller,
    sqrt,
    tan_deg,
    turning_integral,
)
from wisecompass.arithmetic.systems import BALL, EXACT, PLAIN, Arithmetic, hands

__all__ = [
    "BALL",
    "EXACT",
    "PLAIN",
    "Arithmetic",
    "Number",
    "absolute",
    "acos_deg",
    "asin_deg",
    "atan2_deg",
    "cos_deg",
    "elliptic_e",
    "focal_arc",
    "hands",
    "hypot",
    "larger",
    "log",
    "pi_times",
    "pick",
    "root",
    "roughly",
    "sign_of",
    "sin_deg",
    "smaller",
    "sqrt",
    "tan_deg",
    "turning_integral",
]
