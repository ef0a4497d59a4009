"""Problems of the family lines."""
