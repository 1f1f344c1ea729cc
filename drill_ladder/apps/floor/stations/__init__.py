"""Stations on the clock, and drills that a group does together."""

from drill_ladder.apps.floor.stations.services import in_sight, names_in, rotation, where

__all__ = ["in_sight", "names_in", "rotation", "where"]
