"""Species profiles: the schema, the shipped files, and the life stage of an animal."""
