"""The root of all exceptions of this program's own. Those that mean a wrong value are a ValueError as well, and so on."""


class HusbandryError(Exception):
    """What the program refuses or cannot do, and says why."""
