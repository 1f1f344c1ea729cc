"""For whoever works on it (./ladder dev): errors are shown, everything is read anew, files have
plain names.
"""

from drill_ladder.web.settings.base import ROOT, STORAGES, TEMPLATES
from drill_ladder.web.settings.dev import *  # noqa: F403

DEBUG = True
STORAGES = {
    **STORAGES,
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
TEMPLATES[0]["APP_DIRS"] = False
TEMPLATES[0]["OPTIONS"]["loaders"] = [  # type: ignore[index]
    "django.template.loaders.filesystem.Loader",
    "django.template.loaders.app_directories.Loader",
]
# styles and scripts with maps to their sources, which assets/watch.mjs builds beside the committed
# ones
BUILT = ROOT / ".data" / "dev-static"
STATICFILES_DIRS = [BUILT] if BUILT.is_dir() else []
