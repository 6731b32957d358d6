"""The whole yard as one file: a zip of one JSON document (``drylamp schema yard``), readings as CSV, photos and weather files beside it.

::

    yard.json            sites with their builds, trials, sheets; own materials; names of the files below
    readings/7.csv       readings of a trial, as they were written, those taken back too
    photos/7-1.jpg       a photo of a trial
    pictures/3-1.jpg     a photo of what a sheet's row tells of
    weather/1-1.txt      a weather file of a site

Nothing in it is a secret: tokens of loggers stay behind, and are made anew where it is read. Whatever comes from outside is looked at whole
before anything is written: names, sizes, rows, and that all that points to something points to what is in the file.
"""
