// The steps of the try, back and forth, and what the last one changed, in words.
import { ArrowLeft, ArrowRight } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useAnnounced } from "../../ui/announcer";
import { Button } from "../../ui/button";
import { useSteady } from "../../ui/pointer";
import { words } from "../../words";
import { type BenchRequest, useChanges } from "./trying";

const t = words("bench");

const SHOWN = 8;
const SAID = 2; // changes that are said aloud
type Props = {
  form: { key: string; revision: number };
  before: BenchRequest | null;
  after: BenchRequest;
  at: number;
  count: number;
  onGo: (by: number) => void;
  onPoint: (fields: readonly string[]) => void;
};

export function Changed({ form, before, after, at, count, onGo, onPoint }: Props) {
  const changes = useSteady(useChanges(form, before, after).data);
  useAnnounced(
    "changed",
    before === null
      ? ""
      : (changes ?? [])
          .slice(0, SAID)
          .map(({ words }) => words)
          .join(" "),
  );
  const line = (change: Schemas["VerdictChange"]) => (
    <li
      key={change.words}
      onMouseEnter={() => onPoint(change.fields)}
      onMouseLeave={() => onPoint([])}
    >
      {change.words}
    </li>
  );
  return (
    <section aria-label={t("what_changed")} className="text-sm">
      <div className="-ml-1.5 flex items-center gap-1">
        <Button
          look="quiet"
          className="px-1.5"
          busy={at === 0}
          aria-label={t("one_step_back")}
          title={t("one_step_back_alt")}
          onClick={() => onGo(-1)}
        >
          <ArrowLeft size={16} aria-hidden="true" />
        </Button>
        <h4 className="font-sans text-sm">
          {t("what_step")} {at + 1} {t("of_count_changed", { count })}
        </h4>
        <Button
          look="quiet"
          className="px-1.5"
          busy={at === count - 1}
          aria-label={t("one_step_forward")}
          title={t("one_step_forward_alt")}
          onClick={() => onGo(1)}
        >
          <ArrowRight size={16} aria-hidden="true" />
        </Button>
      </div>
      <div>
        <ul>
          {before === null && <li className="text-muted">{t("this_is_where_the_try_begins")}</li>}
          {before !== null && changes?.length === 0 && (
            <li className="text-muted">{t("nothing_visible_changed")}</li>
          )}
          {before !== null && changes?.slice(0, SHOWN).map(line)}
        </ul>
      </div>
      {before !== null && changes && changes.length > SHOWN && (
        <details>
          <summary className="cursor-pointer text-muted">
            {t("and")} {changes.length - SHOWN} {t("more")}
          </summary>
          <ul>{changes.slice(SHOWN).map(line)}</ul>
        </details>
      )}
    </section>
  );
}
