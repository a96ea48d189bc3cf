"""Ground and furniture as things of the trade: what they are made of, what they hold, what they weigh. Plain values in and out."""
