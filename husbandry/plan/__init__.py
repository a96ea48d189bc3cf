"""HabitatPlan in, Assessment out: the one road through all the rooms below."""
