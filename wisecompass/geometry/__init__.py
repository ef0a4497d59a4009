"""Points, lines, circles and solids as value objects that work in every arithmetic."""
