// Why a record was not stored: each field that stands in the way, to be gone to. It takes the focus.
import { useEffect } from "react";
import type { Refused } from "../../api/client";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { goToField } from "./going";
import { type Field, inTheWay, type Judgement } from "./judging";

const t = words("formSheet");

type Props = {
  refused: Refused;
  /** What the desk says by now: what has been corrected is not told any more. */
  judgement: Judgement | undefined;
  pressed: "save" | "submit";
  fields: readonly Field[];
};

const told = new WeakSet<Refused>();

export function RefusalSummary({ refused, judgement, pressed, fields }: Props) {
  const labels = new Map(fields.map((field) => [field.key, field.label]));
  const now = judgement ?? refused.problem.judgement;
  const verdicts = now ? (pressed === "submit" ? [now.save, now.submit] : [now.save]) : [];
  const found = new Map(
    verdicts.flatMap((verdict) => inTheWay(verdict, ["block"])).map((one) => [one.field, one]),
  );
  useEffect(() => {
    told.add(refused);
  }, [refused]);
  // Once for each refusal: while it is being corrected, this comes and goes, and takes nothing.
  const isNew = !told.has(refused);
  return (
    <div
      tabIndex={-1}
      {...(isNew && { "data-focus": "self" })}
      className="my-2 scroll-mt-4 outline-offset-4"
    >
      <Trouble error={refused} />
      {found.size > 0 && (
        <ul
          aria-label={t("what_stands_in_the_way_of_it")}
          className="border-l-4 border-madder bg-tint px-3 pb-2"
        >
          {[...found.values()].map(({ field, text }) => (
            <li key={field}>
              <button
                type="button"
                className="text-left underline hover:text-thistle"
                onClick={() => goToField(field)}
              >
                {labels.get(field) ?? field}
              </button>
              : {text}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
