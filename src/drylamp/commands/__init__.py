"""The commands, a room for each sort; heavy parts are imported where they are used, so that ``--help`` and simple sums stay quick."""
