"""Places and weights of Gauss's rule, found once."""

from __future__ import annotations

from functools import cache
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray


@cache
def gauss(nodes: int) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """So many places between -1 and 1, and how much each counts."""
    import numpy as np

    at, weight = np.polynomial.legendre.leggauss(nodes)
    return at, weight
