"""All addresses."""

urlpatterns: list = []
