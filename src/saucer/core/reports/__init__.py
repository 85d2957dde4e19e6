"""What is told about looks and LUTs: losses, advice, fingerprints."""
