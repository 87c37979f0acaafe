// What would let it through: the smallest changes that clear the blocks, to be tried at once.
import { useState } from "react";
import type { Values } from "../form-sheet/judging";
import { type Trying, useWays } from "./trying";

type Props = {
  form: { key: string; revision: number };
  trial: Trying;
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

function Found({ form, trial, moment, onUse }: Props) {
  const ways = useWays(form, trial, moment);
  if (!ways.data) return <p className="text-muted">Looking for the smallest changes.</p>;
  if (ways.data.length === 0)
    return (
      <p className="text-muted">
        No values were found that would. Look at the rules that block: one may ask for what another
        forbids.
      </p>
    );
  return (
    <ul aria-label="Ways through">
      {ways.data.map((way) => (
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
  );
}
