"""A report to a family, written from the record."""

from drill_ladder.apps.progress.report.writing import draft_report, publish_report

__all__ = ["draft_report", "publish_report"]
