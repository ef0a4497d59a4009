"""The drafter's language: board, steps, marks, findings, checks, cautions, hands, problems and methods."""
