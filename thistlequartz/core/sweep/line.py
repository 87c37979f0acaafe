"""The domain of one ordered field, cut where answers can change: exact at each cut."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from itertools import pairwise

from thistlequartz.core.types.domain import Domain, GridPoint, place_of
from thistlequartz.core.values import to_entry

from .breakpoints import Conditions, GridPoints
from .context import RecordContext, RecordOutcomes
from .edges import Endpoint, Ends

MOST_PLACES = 2_000
"""GridPoints that are looked at; beyond that the sweep is not exact."""
SAMPLES = 64
"""Values taken where a rule could not be followed."""
MOST_SAMPLES = 800
"""Values that are all looked at there: two years of days, say."""
_ROUNDS = 6
"""How often places are looked for again, as each may make fields relevant or not."""
_HALVINGS = 80


class Line:
    """The domain of one ordered field, cut where answers can change."""

    def __init__(self, surroundings: RecordContext, key: str, domain: Domain) -> None:
        self.surroundings = surroundings
        self.key = key
        self.domain = domain
        fields = surroundings.form.fields
        self.type = fields[key].type
        self.is_length = isinstance(domain.value(domain.step), int)
        program = surroundings.form.program(surroundings.circumstances)
        self.conditions = Conditions(program, key, fields, length=self.is_length)
        self.cut_short = False
        self._answers: dict[GridPoint, RecordOutcomes] = {}
        self._found: frozenset[GridPoint] = frozenset()
        """The places that the rules name, without their neighbours."""

    def entry(self, place: GridPoint) -> object:
        """What is entered to stand at `place`: a value, or a text of that length."""
        if not self.is_length:
            settings = self.surroundings.form.fields[self.key].settings
            return to_entry(self.domain.value(place), settings)
        given = self.surroundings.values.get(self.key)
        text = "".join(given.split()) if isinstance(given, str) else ""
        return ((text or "x") * (int(place) // len(text or "x") + 1))[: int(place)]

    def answer(self, place: GridPoint) -> RecordOutcomes:
        """What happens where the field stands at `place`."""
        if place not in self._answers:
            self._answers[place] = self.surroundings.answer({self.key: self.entry(place)})
        return self._answers[place]

    def cuts(
        self, others: Iterable[Mapping[str, object]] = ({},), *, neighbours: bool = True
    ) -> list[GridPoint]:
        """Return the places where a result can change, in order.

        For bands with their neighbours on the grid, as a computed value may be rounded over a bound
        one step beside it.

        `others` are entries of other fields, for each of which the places are looked for.
        """
        found: frozenset[GridPoint] = frozenset()
        for changes in others:
            found |= self._cuts_with(changes)
        if neighbours:
            found |= self._beside(found)
        if len(found) > MOST_PLACES:
            self.cut_short = True
            found = frozenset(sorted(found)[:MOST_PLACES])
        return sorted(found)

    def _beside(self, found: GridPoints) -> GridPoints:
        domain, step = self.domain, self.domain.step
        below = {domain.at_most(place) - step for place in found}
        above = {domain.at_least(place) + step for place in found}
        return frozenset(place for place in below | above if self._inside(place))

    def _cuts_with(self, changes: Mapping[str, object]) -> frozenset[GridPoint]:
        found: GridPoints = frozenset()
        looked: set[GridPoint] = set()
        for _ in range(_ROUNDS):
            cells = [place for place in self._representatives(sorted(found)) if place not in looked]
            for place in cells:
                looked.add(place)
                found |= self._places_at(place, changes)
            if not cells or len(found) > MOST_PLACES:
                break
        else:
            self.cut_short = True
        self._found |= found
        if self.conditions.sampled and not changes:
            found |= self._sampled(sorted(found))
        return frozenset(found)

    def _inside(self, place: GridPoint) -> bool:
        first, last = self.domain.first, self.domain.last
        return (first is None or place >= first) and (last is None or place <= last)

    def _places_at(self, place: GridPoint, changes: Mapping[str, object]) -> GridPoints:
        surroundings = self.surroundings
        record = surroundings.record({**changes, self.key: self.entry(place)})
        settled = surroundings.form.settled(record, surroundings.circumstances)
        return frozenset(
            one for one in self.conditions.places(settled.environment) if self._inside(one)
        )

    def _sampled(self, places: list[GridPoint]) -> GridPoints:
        """The grid places next to which the answer changes, among samples in sight of home and of
        the places found: every value where they are few enough, otherwise evenly spread.
        """
        domain = self.domain
        centre = [*places, domain.home]
        low = domain.at_least(min(centre) - domain.reach(min(centre)))
        high = domain.at_most(max(centre) + domain.reach(max(centre)))
        steps = (high - low) / domain.step
        count = int(steps) if steps <= MOST_SAMPLES else SAMPLES
        spread = (low + (high - low) * number / count for number in range(count + 1))
        samples = sorted({domain.at_least(one) for one in spread if self._inside(one)})
        found: set[GridPoint] = set()
        for left, right in pairwise(samples):
            found |= self._changes(left, right)
        return frozenset(found)

    def _changes(self, left: GridPoint, right: GridPoint) -> set[GridPoint]:
        """Both sides of a change between two samples, found by halving."""
        if self.answer(left) == self.answer(right):
            return set()
        for _ in range(_HALVINGS):
            middle = self.domain.between(left, right)
            if middle is None:
                break
            if self.answer(middle) == self.answer(left):
                left = middle
            else:
                right = middle
        return {left, right}

    def cells(
        self, cuts: list[GridPoint]
    ) -> Iterator[tuple[GridPoint | None, GridPoint | None, GridPoint]]:
        """Every cut on the grid, and what lies between two cuts; each with a place in it."""
        ends: list[GridPoint | None] = [None, *cuts, None]
        for low, high in pairwise(ends):
            if low is not None and self.domain.on_grid(low):
                yield low, low, low
            inside = self.domain.between(low, high)
            if inside is not None:
                yield low, high, inside

    def _representatives(self, cuts: list[GridPoint]) -> list[GridPoint]:
        return [inside for _, _, inside in self.cells(cuts)]

    def told(self, ends: list[Ends]) -> list[Ends]:
        """Between two bands, the place that a rule names is told: “over 1,000”, not “1,000.01”."""
        told = list(ends)
        if self.domain.counted:
            return told
        for number, ((_, high), (low, _)) in enumerate(pairwise(ends)):
            if high is None or low is None or not (high.included and low.included):
                continue
            named = [place_of(edge.value) in self._found for edge in (high, low)]
            if named == [True, False]:
                told[number + 1] = (Endpoint(high.value, included=False), told[number + 1][1])
            elif named == [False, True]:
                told[number] = (told[number][0], Endpoint(low.value, included=False))
        return told

    def corners(self, low: GridPoint | None, high: GridPoint | None) -> list[GridPoint]:
        """The first and the last place on the grid between two cuts, where there are any."""
        if low is None or high is None or low == high:
            return []
        first, last = self._after(low), self._before(high)
        return sorted({first, last}) if first <= last else []

    def _after(self, place: GridPoint) -> GridPoint:
        on_grid = self.domain.at_least(place)
        return on_grid if on_grid > place else on_grid + self.domain.step

    def _before(self, place: GridPoint) -> GridPoint:
        on_grid = self.domain.at_most(place)
        return on_grid if on_grid < place else on_grid - self.domain.step

    def edges(self, low: GridPoint | None, high: GridPoint | None, inside: GridPoint) -> Ends:
        """Where the values of a cell begin and end."""
        if low == high == inside:
            edge = Endpoint(self.domain.value(inside), included=True)
            return edge, edge
        return self._edge(low, self.domain.at_least), self._edge(high, self.domain.at_most)

    def _edge(
        self, place: GridPoint | None, on_to_grid: Callable[[GridPoint], GridPoint]
    ) -> Endpoint | None:
        """A cut where no value stands is told by the first value inside."""
        if place is None:
            return None
        if self.domain.on_grid(place):
            return Endpoint(self.domain.value(place), included=False)
        return Endpoint(self.domain.value(on_to_grid(place)), included=True)
