"""The one way in which a certified run can fail to answer."""


class Undecided(ArithmeticError):
    """A comparison of two balls that overlap: more precision is needed, or the numbers are equal."""
