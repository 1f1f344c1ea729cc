"""A report to a family, written from the record."""

from drill_ladder.apps.progress.report.writing import draft_reports, publish_reports

__all__ = ["draft_reports", "publish_reports"]
