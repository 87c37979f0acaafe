"""What stands in a cell of a spreadsheet, as people would type it."""

from datetime import date, datetime, time


def spelt(cell: object) -> object:
    """Days and times by ISO 8601, a midnight as its day; everything else as it is."""
    match cell:
        case datetime() if cell.time() == time():
            return cell.date().isoformat()
        case datetime():
            return cell.isoformat(sep=" ", timespec="seconds")
        case date():
            return cell.isoformat()
        case time():
            return cell.isoformat(timespec="seconds").removesuffix(":00")
        case _:
            return cell
