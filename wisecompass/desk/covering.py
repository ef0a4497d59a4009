"""What of a figure is covered while somebody practises on it."""

from __future__ import annotations

import time
from dataclasses import dataclass, field

from wisecompass.folio.document import Figure


@dataclass
class Cover:
    """Of a figure so many steps are uncovered, the settings of so many, and these answers. ``helped`` counts what was."""

    of: Figure
    level: int
    read: object = None
    """All that the reading of its numbers hangs on, those of other figures too."""
    steps: int = 1
    settings: int = 1
    answers: set[str] = field(default_factory=set)
    helped: int = 0
    begun: float = field(default_factory=time.monotonic)

    def is_of(self, figure: Figure) -> bool:
        """Whether it is this figure's, with the same numbers."""
        mine, own = ((each.problem, each.method, each.givens, each.solution, each.name) for each in (self.of, figure))
        return mine == own

    def uncover_step(self) -> None:
        """The next step is told; at the first level with its setting."""
        self.steps += 1
        self.helped += 1
        if self.level == 1:
            self.settings = self.steps

    def found_step(self) -> None:
        """The next step was found."""
        self.uncover_step()
        self.helped -= 1

    def missed(self) -> None:
        """Another step was taken for the next."""
        self.helped += 1

    def uncover_setting(self) -> None:
        """The settings of all steps that are told."""
        if self.settings < self.steps:
            self.settings = self.steps
            self.helped += 1

    def uncover_answer(self, name: str) -> None:
        if name not in self.answers:
            self.answers.add(name)
            self.helped += 1

    def told(self, step: int, text: str) -> str:
        """The sentence of a step as much as it is uncovered."""
        if step > self.steps:
            return "Covered. The leaf Practise asks what comes next, or uncovers the step."
        from wisecompass.judgement.next_step import covered

        return text if step <= self.settings else covered(text)
