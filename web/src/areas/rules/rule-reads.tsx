// How a rule that is being written reads, and what is to be corrected in it.
import { type RefObject, useEffect, useRef, useState } from "react";
import { useAnnounced } from "../../ui/announcer";
import { useSettled } from "../../ui/pointer";
import { Sentence } from "../../ui/sentence";
import { ProblemList } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { isCheck, type Rule } from "../form/rule";
import type { Reading } from "./clause-place";
import { useReading } from "./queries";

const t = words("rules");

/** How long somebody pauses before what is wrong is told; a day is told once it is left. */
const PAUSE = 600; // milliseconds

/** The reading as it is told: after a pause, and not while a day is being typed. */
export function useTold(reading: Reading, within: RefObject<HTMLElement | null>): Reading {
  const settled = useSettled(reading, PAUSE);
  const [inDay, setInDay] = useState(false);
  const shown = useRef<Reading>(undefined);
  useEffect(() => {
    const box = within.current;
    const note = (event: FocusEvent) =>
      setInDay(event.type === "focusin" && "day" in ((event.target as HTMLElement).dataset ?? {}));
    box?.addEventListener("focusin", note);
    box?.addEventListener("focusout", note);
    return () => {
      box?.removeEventListener("focusin", note);
      box?.removeEventListener("focusout", note);
    };
  }, [within]);
  const corrected = reading?.problems.length === 0;
  if (corrected || !inDay) shown.current = corrected ? reading : settled;
  return shown.current;
}

/** How the rule reads, or what is to be corrected; what nobody has said yet is told once it is missed. */
export function Reads({ reading, tried }: { reading: Reading; tried: boolean }) {
  const problems = reading?.problems ?? [];
  const wrong = problems.filter(({ unsaid }) => tried || !unsaid);
  const sentence = (reading?.sentence ?? []).map(({ text }) => text).join("");
  const said = wrong.map(({ message, remedy }) => `${message} ${remedy}`).join(" ");
  useAnnounced(
    "rule",
    said || (problems.length === 0 && sentence ? t("the_rule_sentence", { sentence }) : ""),
  );
  return (
    <div className="mb-3 min-h-6 text-[0.95rem]">
      {wrong.length > 0 && (
        <div className="text-madder">
          {t("fix_before_it_can_work")}
          <ProblemList items={wrong} />
        </div>
      )}
      {reading && problems.length === 0 && (
        <p className="text-muted">
          {t("reads")} <Sentence segments={reading?.sentence ?? []} />
        </p>
      )}
      {reading && problems.length === 0 && reading.advice.length > 0 && (
        <div className="text-ochre">
          <ProblemList items={reading.advice} />
        </div>
      )}
    </div>
  );
}

/** Somebody else's newer version of the rule, as it reads. */
export function Newer({ form, rule }: { form: FormView; rule: Rule }) {
  const reading = useReading(form.key, { rule, clauses: {} }, rule.key).data;
  return (
    <p>
      {t("the_newer_one_reads", { name: String(Boolean(rule.name)), name2: rule.name })}{" "}
      <Sentence segments={reading?.sentence ?? []} />
      {isCheck(rule) && (
        <span className="text-muted">
          {" "}
          {t("typing_entry_saving_save_submitting_submit", {
            entry: rule.severity.entry,
            save: rule.severity.save,
            submit: rule.severity.submit,
          })}
        </span>
      )}
    </p>
  );
}
