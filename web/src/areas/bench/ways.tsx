// What would let it through: the fewest changes that clear the blocks, to be tried at once; or why
// nothing does.
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import type { Values } from "../form-sheet/judging";
import { type BenchRequest, useWays } from "./trying";

const t = words("bench");

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
        {t("what_would_let_it_through_on_words", { words })}
      </button>
      {asked && <Found {...props} />}
    </div>
  );
}

function Found({ form, request, moment, onUse }: Props) {
  const asked = useWays(form, request, moment);
  if (!asked.data) return <p className="text-muted">{t("searching_for_the_fewest_changes")}</p>;
  const { ways, fewest, nothing, stopped_by, why } = asked.data;
  if (nothing) return <Nothing formKey={form.key} rules={stopped_by} />;
  if (ways.length === 0)
    return (
      <p className="text-muted">
        {t("no_values_were_found_that_would_look", { why: String(Boolean(why)), why2: why })}
      </p>
    );
  return (
    <>
      <ul aria-label={t("ways_through")}>
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
              {t("try_this")}
            </button>
          </li>
        ))}
      </ul>
      <p className="text-muted">
        {fewest
          ? t("no_fewer_changes_would_do_whatever_is")
          : t("found_by_trying_fewer_changes_may_do", { why })}
      </p>
    </>
  );
}

type NothingProps = { formKey: string; rules: Schemas["BlockingRuleView"][] };

function Nothing({ formKey, rules }: NothingProps) {
  if (rules.length === 0) return <p>{t("nothing_lets_it_through_whatever_is_entered")}</p>;
  return (
    <>
      <p>{t("nothing_lets_it_through_whatever_is_entered_2", { count: rules.length })}</p>
      <ul aria-label={t("rules_that_stop_it")}>
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
