"""The reckoning beforehand: every sum that an instrument will be set to, written out before the first step.

People do a line of arithmetic first, and it is where slips begin. What is set to a given as it stands, to a length of the
drawing or to any opening needs none.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from wisecompass.drafting.conventions import Units
from wisecompass.drafting.record import Act
from wisecompass.drafting.sentences import sum_words
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import measured

MOST_ALIKE = 3
"""Of sums that differ in their numbers only, more than so many are shown by the first two and the last."""

GLANCE = 260
"""So many characters of sums are shown together."""

DEGREES = ("protract", "slant", "divide round")
"""Acts whose settings are angles."""

_OPERATOR = re.compile(r"[-+*/(]")


@dataclass(frozen=True)
class Reckoned:
    """A sum of givens with its value, mm or degrees."""

    sum: str
    value: float
    unit: str
    written: str = ""
    """The sum with its numbers as they were typed, where its places in a list say little."""

    def text(self, units: Units = Units.MM) -> str:
        """``major / 2 = 84 mm``."""
        return f"{sum_words(self.written or self.sum)} = {measured(self.value, self.unit, units)}"


def reckoning(steps: Sequence[Step]) -> list[Reckoned]:
    """All sums of a sheet in the order in which they are needed, each once."""
    found: dict[str, Reckoned] = {}
    for step in steps:
        for act in step.acts:
            for setting, value in _settings(act):
                text = str(setting.get("sum", "")).removeprefix("-")
                if _OPERATOR.search(text) and text not in found:
                    if setting.get("written") and not _OPERATOR.search(str(setting["written"]).removeprefix("-")):
                        continue  # what is added to it is nothing
                    unit, typed = "°" if act.do in DEGREES else "mm", str(setting.get("written", "")).removeprefix("-")
                    found[text] = Reckoned(text, abs(value), unit, typed)
    return list(found.values())


def reckoned_words(steps: Sequence[Step], units: Units = Units.MM) -> str:
    """The reckoning as one sentence; nothing where there is none. Long runs of like sums are cut to their ends, and what is
    more than a glance takes in is left to its steps."""
    several: dict[str, list[Reckoned]] = {}
    for one in reckoning(steps):
        several.setdefault(re.sub(r"\d+", "#", one.sum), []).append(one)
    texts = []
    for alike in several.values():
        lines = [one.text(units) for one in alike]
        texts.append("; ".join(lines) if len(lines) <= MOST_ALIKE else f"{lines[0]}; {lines[1]} … {lines[-1]}")
    shown = [text for k, text in enumerate(texts) if k == 0 or sum(map(len, texts[: k + 1])) <= GLANCE]
    if len(shown) < len(texts):
        shown.append(f"{len(texts) - len(shown)} more at their steps")
    return f"Reckon first: {'; '.join(shown)}." if texts else ""


def _settings(act: Act) -> Iterator[tuple[dict[str, Any], float]]:
    """What an act is set to, with the values."""
    if act.set_to is not None and act.value is not None:
        yield act.set_to, act.value
    for told in act.more.values():
        if isinstance(told, dict) and "value" in told:
            yield told, float(told["value"])
