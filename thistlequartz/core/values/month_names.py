"""What the months are called, as dates are shown and read."""

from thistlequartz.core.translation import tr

MONTHS = (
    tr("January"),
    tr("February"),
    tr("March"),
    tr("April"),
    tr("May"),
    tr("June"),
    tr("July"),
    tr("August"),
    tr("September"),
    tr("October"),
    tr("November"),
    tr("December"),
)
SHORT_MONTHS = (
    tr("Jan"),
    tr("Feb"),
    tr("Mar"),
    tr("Apr"),
    tr("May"),
    tr("Jun"),
    tr("Jul"),
    tr("Aug"),
    tr("Sep"),
    tr("Oct"),
    tr("Nov"),
    tr("Dec"),
)
