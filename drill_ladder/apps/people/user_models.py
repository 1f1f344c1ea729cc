"""Whoever signs in."""

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from drill_ladder.apps.personal import Personal


class UserManager(BaseUserManager["User"]):
    """Users are known by their mail address."""

    def is_known(self, email: str) -> bool:
        """Whether there is an account for an address."""
        return self.filter(email=email).exists()

    def create_user(self, email: str, password: str, name: str = "") -> "User":
        """A user with a usable password."""
        user = self.model(email=self.normalize_email(email).lower(), name=name)
        user.set_password(password)
        user.save()
        return user


class Density(models.TextChoices):
    """How close the lines of lists stand."""

    COMPACT = "compact", "Close together: a squad at one look"
    COMFORTABLE = "comfortable", "Further apart, larger"


class User(AbstractBaseUser):
    """Somebody who signs in: a coach, an assistant or an owner. density: of their pages."""

    personal = Personal(plain=("email", "name", "density"), secret=("password",))

    email = models.EmailField(unique=True)
    name = models.CharField(max_length=120)
    is_active = models.BooleanField(default=True)
    density = models.CharField(max_length=11, choices=Density, default=Density.COMPACT)

    USERNAME_FIELD = "email"
    REQUIRED_FIELDS = ["name"]
    objects = UserManager()

    def __str__(self) -> str:
        return self.name or self.email

    def get_full_name(self) -> str:
        """The name as shown."""
        return self.name
