// A rule's sentence as the server words it: fields in italics, values set apart.
import type { Schemas } from "../api/client";

export function Sentence({ segments }: { segments: Schemas["Segment"][] }) {
  return (
    <>
      {segments.map((segment, position) => {
        const key = `${position}-${segment.text}`;
        if (segment.kind === "field") return <i key={key}>{segment.text}</i>;
        if (segment.kind === "value")
          return (
            <span key={key} className="font-semibold">
              {segment.text}
            </span>
          );
        return <span key={key}>{segment.text}</span>;
      })}
    </>
  );
}
