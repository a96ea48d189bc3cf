"""Above all others: the list of habitats, a new one, an imported plan, the demo."""
