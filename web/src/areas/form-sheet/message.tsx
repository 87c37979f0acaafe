// What is told to people who fill a form in, in the colour and shape of its severity.
import type { ReactNode } from "react";
import { Facet, LEVEL_COLOUR, LEVEL_WORDS, type Level } from "../../ui/facet";
import type { Told } from "./judging";

export function Message({ told, children }: { told: Told; children?: ReactNode }) {
  const level = told.severity as Level;
  return (
    <li className={`mt-0.5 flex items-start gap-1.5 ${LEVEL_COLOUR[level]}`}>
      <span className="mt-px">
        <Facet level={level} size={14} />
      </span>
      <span>
        <span className="sr-only">{LEVEL_WORDS[level]}: </span>
        {told.text} {children}
      </span>
    </li>
  );
}
