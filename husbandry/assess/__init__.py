"""A plan and a profile in, the assessment out: quantities by family, the facts for the review, the result."""
