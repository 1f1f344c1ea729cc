"""What pages and questions may read. A club that was filled as a real one is asked for everything,
alone and with two others of its size beside it, and the database says what it read:

- no page and no queryset method reads the rows of a club that was not asked for (more is read
  beside others than alone),
- no page reads all that a club has of a table that grows with every day of work, unless its line in
  pages.py says so and why,
- each page keeps to the questions and the blocks that stand in its line.

Ten faults that such a rule has to find are then put in one by one; a fault that is not found fails
the check as well. `./ladder check` runs it, `python -m scripts.bounds --write` puts the table into
docs/performance.md.
"""
