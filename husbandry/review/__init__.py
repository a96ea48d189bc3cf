"""Findings: one small function a rule, over plain facts."""
