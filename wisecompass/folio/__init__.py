"""Documents on paper: folios, sheets, conventions, layout and lettering."""
