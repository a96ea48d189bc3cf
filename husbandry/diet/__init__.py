"""Rations by the stage rule, and the dusting rota."""
