// The picture of a map: regions, borders, where the record stands; pointed at, or gone through by key.
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { Facet, LEVEL_COLOUR, type Level } from "../../ui/facet";
import { words } from "../../words";
import { levelOf } from "../form/outcomes";
import type { Entered } from "../form-sheet/judging";
import { AxisAcross, AxisUpward } from "./map-axes";
import { nearestAt } from "./placing";
import type { MapView, Moment } from "./views";

const t = words("bench");

type Region = MapView["regions"][number];
type Point = Region["label"];
type Props = {
  map: MapView;
  moment: Moment;
  words: (region: Region) => string;
  onChoose: (across: Entered, up: Entered) => void;
};

const FILL: Record<Level, string> = {
  clear: "fill-moss/15 stroke-moss",
  note: "fill-slate/25 stroke-slate",
  warn: "fill-ochre/35 stroke-ochre",
  block: "fill-madder/45 stroke-madder",
  hold: "",
  proposal: "",
};

export function MapPicture({ map, moment, words, onChoose }: Props) {
  const [at, setAt] = useState(0);
  const [pointed, setPointed] = useState<[number, number] | null>(null);
  const picture = useRef<HTMLDivElement>(null);
  const current = Math.min(at, map.regions.length - 1);
  function placeOf(event: PointerEvent | React.MouseEvent): Point | null {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return null;
    return {
      x: (event.clientX - box.left) / box.width,
      y: (box.bottom - event.clientY) / box.height,
    };
  }
  function pointedAt(event: PointerEvent | React.MouseEvent): [number, number] | null {
    const place = placeOf(event);
    if (!place) return null;
    return [nearestAt(map.across.points, place.x), nearestAt(map.up.points, place.y)];
  }
  function onKey(event: KeyboardEvent) {
    const way = WAYS[event.key];
    if (!way) return;
    event.preventDefault();
    const next = nextRegion(map.regions, current, way);
    setAt(next);
    picture.current?.querySelector<HTMLButtonElement>(`[data-region="${next}"]`)?.focus();
  }
  const value = pointed && {
    x: map.across.points[pointed[0]],
    y: map.up.points[pointed[1]],
  };
  const shown = map.regions[current];
  return (
    <div className="grid grid-cols-[auto_minmax(0,1fr)]">
      <p aria-hidden="true" className="col-span-2 pb-1.5 text-muted">
        ↑ {map.up.label}
      </p>
      <AxisUpward side={map.up} />
      {/* biome-ignore lint/a11y/useSemanticElements: it is no set of form controls */}
      <div
        ref={picture}
        role="group"
        aria-label={t("map")}
        tabIndex={-1}
        className="relative h-80 cursor-crosshair border border-edge"
        onKeyDown={onKey}
        onPointerMove={(event) => setPointed(pointedAt(event))}
        onPointerLeave={() => setPointed(null)}
        onClick={(event) => {
          const [x, y] = pointedAt(event) ?? [];
          if (x === undefined || y === undefined) return;
          onChoose(map.across.points[x]?.value ?? null, map.up.points[y]?.value ?? null);
        }}
      >
        <Shapes map={map} moment={moment} />
        {map.here && (
          <span
            title={t("where_the_record_stands")}
            className="pointer-events-none absolute size-3.5 -translate-x-1/2 translate-y-1/2 rounded-full border-2 border-ink bg-leaf"
            style={standing(map.here)}
          />
        )}
        {map.regions.map((region, place) => (
          <RegionButton
            key={region.words}
            region={region}
            place={place}
            level={levelOf(region[moment])}
            label={words(region)}
            isCurrent={place === current}
            onFocus={() => setAt(place)}
            onChoose={onChoose}
          />
        ))}
      </div>
      <span />
      <AxisAcross side={map.across} />
      <p className="col-span-2 mt-0.5 min-h-10 text-muted">
        {value?.x && value.y
          ? t("press_to_try_label_words_label2_words2", {
              label: map.across.label,
              words: value.x.words,
              label2: map.up.label,
              words2: value.y.words,
            })
          : shown && `${words(shown)}.`}
      </p>
    </div>
  );
}

/** The regions in their colours, and the borders between them with their words. */
function Shapes({ map, moment }: Pick<Props, "map" | "moment">) {
  return (
    <>
      <svg
        aria-hidden="true"
        viewBox="0 0 1 1"
        preserveAspectRatio="none"
        className="absolute inset-0 size-full"
      >
        {map.regions.map((region) => (
          <path
            key={region.words}
            d={region.shapes.map(pathOf).join("")}
            className={FILL[levelOf(region[moment])]}
            vectorEffect="non-scaling-stroke"
            strokeWidth={isLine(region) ? 3 : 0}
          />
        ))}
        {map.borders.map(({ begins, ends }, place) => (
          <line
            // biome-ignore lint/suspicious/noArrayIndexKey: borders are drawn anew together
            key={place}
            x1={begins.x}
            y1={1 - begins.y}
            x2={ends.x}
            y2={1 - ends.y}
            className="stroke-ink/60"
            vectorEffect="non-scaling-stroke"
            strokeWidth={1}
          />
        ))}
      </svg>
      {map.borders
        .filter((border) => border.words)
        .map(({ words: said, begins, ends }) => (
          <span
            key={said}
            aria-hidden="true"
            className="pointer-events-none absolute -translate-x-1/2 translate-y-1/2 rounded-xs bg-leaf/85 px-1 text-xs whitespace-nowrap"
            style={standing({ x: (begins.x + ends.x) / 2, y: (begins.y + ends.y) / 2 })}
          >
            {said}
          </span>
        ))}
    </>
  );
}

type RegionProps = {
  region: Region;
  place: number;
  level: Level;
  label: string;
  isCurrent: boolean;
  onFocus: () => void;
  onChoose: Props["onChoose"];
};

function RegionButton({ region, place, level, label, isCurrent, onFocus, onChoose }: RegionProps) {
  return (
    <button
      type="button"
      data-region={place}
      tabIndex={isCurrent ? 0 : -1}
      aria-label={label}
      title={label}
      className={`absolute flex size-6 -translate-x-1/2 translate-y-1/2 items-center justify-center rounded-xs ${LEVEL_COLOUR[level]}`}
      style={standing(region.label)}
      onClick={(event) => {
        event.stopPropagation();
        onChoose(region.across ?? null, region.up ?? null);
      }}
      onFocus={onFocus}
    >
      <Facet level={level} size={12} />
    </button>
  );
}

const standing = ({ x, y }: Point) => ({ left: `${100 * x}%`, bottom: `${100 * y}%` });

const pathOf = (shape: readonly Point[]) =>
  `M${shape.map(({ x, y }) => `${x.toFixed(5)} ${(1 - y).toFixed(5)}`).join("L")}Z`;

/** Whether a region is a single value across or upward, which has no area. */
function isLine(region: Region) {
  return region.shapes.every((shape) =>
    (["x", "y"] as const).some((side) => new Set(shape.map((point) => point[side])).size === 1),
  );
}

const WAYS: Record<string, [number, number]> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
};

/** The nearest region in a direction, sideways counting twice. */
function nextRegion(regions: readonly Region[], from: number, [right, above]: [number, number]) {
  const here = regions[from]?.label ?? { x: 0, y: 0 };
  let best = from;
  let least = Number.POSITIVE_INFINITY;
  regions.forEach(({ label }, place) => {
    const [x, y] = [label.x - here.x, label.y - here.y];
    const along = x * right + y * above;
    const aside = Math.abs(x * above) + Math.abs(y * right);
    const far = along + 2 * aside;
    if (place !== from && along > 0.001 && far < least) {
      best = place;
      least = far;
    }
  });
  return best;
}
