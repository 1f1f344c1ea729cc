"""The library as a file, out and in; the shelf of starter ladders."""

from drill_ladder.apps.library.files.exchange import import_library, library_document

__all__ = ["import_library", "library_document"]
