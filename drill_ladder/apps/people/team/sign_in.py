"""The sign-in form."""

from typing import Any

from allauth.account.forms import LoginForm


class SignInForm(LoginForm):  # type: ignore[misc]
    """Labels say what a field is; a placeholder would only say it twice."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            field.widget.attrs.pop("placeholder", None)
