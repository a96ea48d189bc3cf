"""Measured beside foretold: a habitat's live page, charts, the watch over series, and the pages of channels and devices."""
