// What would let it through: the fewest changes that clear the blocks, to be tried at once; or why
// nothing does.
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import type { Values } from "../form-sheet/judging";
import { type BenchRequest, useWays } from "./trying";

type Props = {
  form: { key: string; revision: number };
  request: BenchRequest;
  moment: "save" | "submit";
  onUse: (changes: Values) => void;
};

export function Ways(props: Props) {
  const [asked, setAsked] = useState(false);
  const words = props.moment === "save" ? "saving" : "submitting";
  return (
    <div className="text-sm">
      <button
        type="button"
        aria-expanded={asked}
        className="min-h-6 text-thistle hover:underline"
        onClick={() => setAsked(!asked)}
      >
        What would let it through on {words}?
      </button>
      {asked && <Found {...props} />}
    </div>
  );
}

function Found({ form, request, moment, onUse }: Props) {
  const asked = useWays(form, request, moment);
  if (!asked.data) return <p className="text-muted">Searching for the fewest changes…</p>;
  const { ways, fewest, nothing, stopped_by, why } = asked.data;
  if (nothing) return <Nothing formKey={form.key} rules={stopped_by} />;
  if (ways.length === 0)
    return (
      <p className="text-muted">
        No values were found that would{why && `; that there are none is not proved, as ${why}`}.
        Look at the rules that block: one may ask for what another forbids.
      </p>
    );
  return (
    <>
      <ul aria-label="Ways through">
        {ways.map((way) => (
          <li
            key={way.words.join()}
            className="flex items-baseline gap-3 border-t border-hairline py-0.5"
          >
            <span className="grow">{way.words.join("; ")}</span>
            <button
              type="button"
              className="min-h-6 shrink-0 text-thistle hover:underline"
              onClick={() => onUse(way.changes)}
            >
              Try this
            </button>
          </li>
        ))}
      </ul>
      <p className="text-muted">
        {fewest
          ? "No fewer changes would do, whatever is entered: proved."
          : `Found by trying; fewer changes may do, as ${why}.`}
      </p>
    </>
  );
}

type NothingProps = { formKey: string; rules: Schemas["BlockingRuleView"][] };

function Nothing({ formKey, rules }: NothingProps) {
  if (rules.length === 0)
    return <p>Nothing lets it through, whatever is entered: the form itself stands in the way.</p>;
  return (
    <>
      <p>
        Nothing lets it through, whatever is entered: proved.{" "}
        {rules.length === 1 ? "This rule cannot be met" : "These rules cannot be met together"}:
      </p>
      <ul aria-label="Rules that stop it">
        {rules.map((rule) => (
          <li key={rule.key} className="border-t border-hairline py-0.5">
            <Link
              to={`/forms/${formKey}/rules?rule=${rule.key}`}
              className="inline-flex min-h-6 items-center text-thistle hover:underline"
            >
              {rule.name}
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
