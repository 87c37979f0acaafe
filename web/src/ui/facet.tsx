// The mark of a severity: a six-sided facet, filled further the harder it speaks.
import { words } from "../words";

const t = words("ui");
export type Level = "clear" | "note" | "warn" | "block" | "hold" | "proposal";

export const LEVEL_COLOUR: Record<Level, string> = {
  clear: "text-moss",
  note: "text-slate",
  warn: "text-ochre",
  block: "text-madder",
  hold: "text-plum",
  proposal: "text-plum",
};

/** The mark in words, for those who hear the page. */
export const LEVEL_WORDS: Record<Level, string> = {
  clear: t("in_order"),
  note: t("note"),
  warn: t("warning"),
  block: t("stops"),
  hold: t("on_hold"),
  proposal: t("proposal"),
};

const OUTLINE = "M8 1.2 13.9 4.6v6.8L8 14.8 2.1 11.4V4.6z";

export function Facet({ level, size = 16 }: { level: Level; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      aria-hidden="true"
      className={`inline-block shrink-0 ${LEVEL_COLOUR[level]}`}
    >
      <path
        d={OUTLINE}
        fill={level === "block" ? "currentColor" : "none"}
        stroke="currentColor"
        strokeWidth="1.5"
      />
      {level === "hold" && <path d="M2.1 15.6h11.8" stroke="currentColor" strokeWidth="1.6" />}
      {level === "proposal" && (
        <path d="M5 9.6 8 6.4l3 3.2" fill="none" stroke="currentColor" strokeWidth="1.5" />
      )}
      {level === "note" && <circle cx="8" cy="8" r="2.3" fill="currentColor" />}
      {level === "warn" && <path d="M2.1 4.6v6.8L8 14.8V1.2z" fill="currentColor" />}
    </svg>
  );
}
