"""What a password may not be, beside what Django's own checks say."""

from django.core.exceptions import ValidationError
from django.utils.translation import gettext as _


class NotTooLong:
    """No longer than anybody types: an endless one would only keep the server busy."""

    def __init__(self, max_length: int = 128) -> None:
        self.max_length = max_length

    def validate(self, password: str, user: object = None) -> None:
        """Raises ValidationError for a longer one."""
        if len(password) > self.max_length:
            raise ValidationError(self.get_help_text(), code="password_too_long")

    def get_help_text(self) -> str:
        """What stands beside the field."""
        return _("Your password has %(n)s characters at most.") % {"n": self.max_length}
