"""Problems of the family loci."""
