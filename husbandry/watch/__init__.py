"""What the log of an animal shows that its keeper would miss: rules that say what, since when, why, and what to do first."""
