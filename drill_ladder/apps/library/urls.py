"""Addresses of the library."""

from django.urls import path

from drill_ladder.apps.library import drill_views, exchange_views, ladder_views, plan_views, rule_views, views

app_name = "library"
urlpatterns = [
    path("ladders/", views.ladders, name="ladders"),
    path("ladders/<int:pk>/", views.ladder, name="ladder"),
    path("library/<slug:kind>/<int:pk>/aside/", views.aside, name="aside"),
    path("library.json", exchange_views.take_out, name="take-out"),
    path("library/in/", exchange_views.take_in, name="take-in"),
    path("ladders/draft/", ladder_views.draft, name="ladder-draft"),
    path("ladders/new/", ladder_views.edit, name="ladder-new"),
    path("ladders/<int:pk>/edit/", ladder_views.edit, name="ladder-edit"),
    path("ladders/look/<int:row>/", ladder_views.look, name="rung-look-new"),
    path("ladders/<int:pk>/look/<int:row>/", ladder_views.look, name="rung-look"),
    path("ladders/<int:pk>/odds/<int:position>/", rule_views.odds, name="odds"),
    path("ladders/<int:pk>/rule/", rule_views.look, name="rule-look"),
    path("drills/", views.drills, name="drills"),
    path("drills/new/", drill_views.edit, name="drill-new"),
    path("drills/<int:pk>/edit/", drill_views.edit, name="drill-edit"),
    path("drills/<int:pk>/run/", drill_views.run, name="drill-run"),
    path("drills/<int:pk>/plan/", plan_views.edit, name="plan-edit"),
    path("drills/<int:pk>/plan.svg", views.plan_file, name="plan-file"),
    path("rungs/<int:pk>/plan/", plan_views.edit_rung, name="rung-plan"),
    path("plans/look/", plan_views.look, name="plan-look"),
    path("plans/shape/<slug:name>/", plan_views.shape, name="plan-shape"),
    path("drills/<int:pk>/", views.drill, name="drill"),
]
