// What holds a record up: the list shrinks as it is filled in.
import type { ReactNode } from "react";
import { Facet } from "../../ui/facet";
import { heldBy, type Judgement } from "./judging";

type Props = { judgement: Judgement; held: boolean; linkTo: (key: string) => ReactNode };

export function HoldBanner({ judgement, held, linkTo }: Props) {
  if (!judgement.save.on_hold) return null;
  const missing = heldBy(judgement);
  return (
    <div className="mb-3 border-y border-hairline py-2 text-plum">
      <p className="flex items-center gap-1.5 font-semibold">
        <Facet level="hold" size={15} />
        {held ? "This record is on hold." : "Saving puts this record on hold."}
      </p>
      {missing.length > 0 ? (
        <p>
          Still missing:{" "}
          {missing.map((message, position) => (
            <span key={message.text}>
              {position > 0 && ", "}
              {linkTo(message.fields[0] ?? "")}
            </span>
          ))}
        </p>
      ) : (
        <p>Complete: a steward can release it from hold.</p>
      )}
    </div>
  );
}
