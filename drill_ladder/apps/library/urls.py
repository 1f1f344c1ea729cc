"""Addresses of the library."""

from django.urls import path

from drill_ladder.apps.library import views
from drill_ladder.apps.library.drills import edit_views as drill_edit
from drill_ladder.apps.library.drills import views as drills
from drill_ladder.apps.library.files import views as files
from drill_ladder.apps.library.files.shelf import shelf
from drill_ladder.apps.library.ladders import edit_views as ladder_edit
from drill_ladder.apps.library.ladders import views as ladders
from drill_ladder.apps.library.limits import views as limits
from drill_ladder.apps.library.plans import views as plans
from drill_ladder.apps.library.routines import views as routines
from drill_ladder.apps.library.rules import views as rules

app_name = "library"
urlpatterns = [
    path("ladders/", ladders.ladders, name="ladders"),
    path("ladders/<int:pk>/", ladders.ladder, name="ladder"),
    path("library/<slug:kind>/<int:pk>/aside/", views.archive, name="archive"),
    path("library.json", files.export_file, name="export"),
    path("library/starter/", shelf, name="shelf"),
    path("library/in/", files.import_file, name="import"),
    path("ladders/draft/", ladder_edit.draft, name="ladder-draft"),
    path("ladders/new/", ladder_edit.edit, name="ladder-new"),
    path("ladders/<int:pk>/edit/", ladder_edit.edit, name="ladder-edit"),
    path("ladders/look/<int:row>/", ladder_edit.preview, name="rung-preview-new"),
    path("ladders/<int:pk>/look/<int:row>/", ladder_edit.preview, name="rung-preview"),
    path("ladders/<int:pk>/odds/<int:position>/", rules.odds, name="odds"),
    path("limits/", limits.limits, name="limits"),
    path("limits/<int:pk>/away/", limits.drop, name="limit-drop"),
    path("limits/tools/", limits.tool, name="tool-limit"),
    path("limits/tools/<int:pk>/away/", limits.drop_tool, name="tool-limit-drop"),
    path("ladders/marks/", rules.marks, name="marks"),
    path("ladders/<int:pk>/trail/", ladders.trail, name="trail"),
    path("ladders/<int:pk>/rule/", ladders.preview, name="rule-preview"),
    path("routines/", routines.routines, name="routines"),
    path("routines/new/", routines.edit, name="routine-new"),
    path("routines/<int:pk>/edit/", routines.edit, name="routine-edit"),
    path("drills/", drills.drills, name="drills"),
    path("drills/new/", drill_edit.edit, name="drill-new"),
    path("drills/<int:pk>/edit/", drill_edit.edit, name="drill-edit"),
    path("drills/<int:pk>/run/", drill_edit.run, name="drill-run"),
    path("drills/<int:pk>/plan/", plans.edit, name="plan-edit"),
    path("drills/<int:pk>/plan.svg", plans.plan_file, name="plan-file"),
    path("rungs/<int:pk>/plan/", plans.edit_rung, name="rung-plan"),
    path("plans/look/", plans.preview_plan, name="plan-preview"),
    path("plans/shape/<slug:name>/", plans.shape, name="plan-shape"),
    path("drills/<int:pk>/", drills.drill, name="drill"),
]
