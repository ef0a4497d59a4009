"""Problems of the family conics."""
