"""Heat and moisture: one network of air and ground zones, one vapour pressure."""
