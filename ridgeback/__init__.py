"""The Django project: accounts, rooms and habitats, the planner, the daybook."""
