"""Problems of the family pictorial."""
