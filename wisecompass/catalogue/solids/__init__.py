"""Problems of the family solids."""
