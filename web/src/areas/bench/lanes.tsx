// Under a band: what is offered, asked or needed elsewhere, so that gaps and overlaps are seen.
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { runsOf } from "./placing";
import type { Sweep } from "./views";

const t = words("bench");

type Lane = Schemas["LaneView"];

const ACT_WORDS: Record<Lane["act"], string> = {
  offers: t("offers"),
  asks: t("asks"),
  needs: t("needs"),
};

/** Pixels. */
const A_SIGN = 6.2;

export function Lanes({ sweep, width }: { sweep: Sweep; width: number }) {
  return sweep.lanes.map((lane) => (
    <Row key={`${lane.act} ${lane.field}`} lane={lane} sweep={sweep} width={width} />
  ));
}

function Row({ lane, sweep, width }: { lane: Lane; sweep: Sweep; width: number }) {
  // Blank stands apart, so nothing runs on from it.
  const runs = runsOf(
    lane.parts.map((part, place) => ({
      words: part.join(" or "),
      several: part.length > 1,
      place,
    })),
    (a, b) => a.words === b.words && a.place > 0,
  );
  return (
    <>
      <span className="max-w-36 leading-tight text-muted">
        {ACT_WORDS[lane.act]} {lane.label}
      </span>
      <div className="relative h-6 border-b border-dotted border-edge">
        {runs.map(({ first, last, one }) => {
          const begins = sweep.bands[first]?.begins ?? 0;
          const ends = sweep.bands[last]?.ends ?? 0;
          if (!one.words) return null;
          const words = lane.act === "offers" ? one.words : "";
          const fits = words.length * A_SIGN < (ends - begins) * width;
          return (
            <span
              key={first}
              title={`${ACT_WORDS[lane.act]} ${lane.label}${words && `: ${words}`}`}
              style={{ left: `${100 * begins}%`, width: `${100 * (ends - begins)}%` }}
              className={`absolute inset-y-0.5 flex min-w-1 items-center justify-center overflow-hidden rounded-xs border px-0.5 text-xs whitespace-nowrap ${one.several ? "border-2 border-ochre bg-ochre/20" : "border-plum/60 bg-plum/10"}`}
            >
              {fits && words}
            </span>
          );
        })}
      </div>
    </>
  );
}

/** What becomes of other fields in one band: “ Offers Premium rate: 2.5 %. Needs Reason.” */
export function laneWords(sweep: Sweep, band: number) {
  return sweep.lanes
    .filter((lane) => (lane.parts[band] ?? []).length > 0)
    .map((lane) => {
      const values = lane.act === "offers" ? `: ${lane.parts[band]?.join(" or ")}` : "";
      return ` ${ACT_WORDS[lane.act]} ${lane.label}${values}.`;
    })
    .join("");
}
