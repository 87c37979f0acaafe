// The steps of the try, back and forth, and what the last one changed, in words.
import { ArrowLeft, ArrowRight } from "lucide-react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { type Trying, useChanges } from "./trying";

const SHOWN = 8;

type Props = {
  form: { key: string; revision: number };
  before: Trying | null;
  after: Trying;
  at: number;
  count: number;
  onGo: (by: number) => void;
  onPoint: (fields: readonly string[]) => void;
};

export function Changed({ form, before, after, at, count, onGo, onPoint }: Props) {
  const changes = useChanges(form, before, after).data;
  const line = (change: Schemas["ChangeView"]) => (
    <li
      key={change.words}
      onMouseEnter={() => onPoint(change.fields)}
      onMouseLeave={() => onPoint([])}
    >
      {change.words}
    </li>
  );
  return (
    <section aria-label="What changed" className="text-sm">
      <div className="-ml-1.5 flex items-center gap-1">
        <Button
          look="quiet"
          className="px-1.5"
          disabled={at === 0}
          aria-label="One step back"
          title="One step back (Alt + ,)"
          onClick={() => onGo(-1)}
        >
          <ArrowLeft size={16} aria-hidden="true" />
        </Button>
        <h3 className="font-sans text-sm">
          What step {at + 1} of {count} changed
        </h3>
        <Button
          look="quiet"
          className="px-1.5"
          disabled={at === count - 1}
          aria-label="One step forward"
          title="One step forward (Alt + .)"
          onClick={() => onGo(1)}
        >
          <ArrowRight size={16} aria-hidden="true" />
        </Button>
      </div>
      <div role="status">
        <ul>
          {before === null && <li className="text-muted">This is where the try begins.</li>}
          {before !== null && changes?.length === 0 && (
            <li className="text-muted">Nothing that anybody would see.</li>
          )}
          {before !== null && changes?.slice(0, SHOWN).map(line)}
        </ul>
      </div>
      {before !== null && changes && changes.length > SHOWN && (
        <details>
          <summary className="cursor-pointer text-muted">and {changes.length - SHOWN} more</summary>
          <ul>{changes.slice(SHOWN).map(line)}</ul>
        </details>
      )}
    </section>
  );
}
