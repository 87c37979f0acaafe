// A message beforehand, about a stored record or about what stands on the bench.
import { useState } from "react";
import { Refused } from "../../api/client";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { useSteps } from "../bench/steps";
import { inputWith } from "../bench/trying";
import type { FormView } from "../form/form";
import { LetterSheet } from "./letter";
import { type Entry, type Shown, usePreview } from "./queries";

const t = words("messages");

/** A condition that is still being written is no fault yet; the editor tells what is wrong in it. */
function isUnsaid(error: unknown) {
  return error instanceof Refused && error.problem.type.endsWith("unreadable-condition");
}

type Props = { form: FormView; entry: Entry };

export function Preview({ form, entry }: Props) {
  const [from, setFrom] = useState<"record" | "bench">("record");
  const [number, setNumber] = useState("1");
  const bench = useSteps(form.key, inputWith({})).now.entries.values;
  const whole = /^\d{1,9}$/.test(number.trim()) ? Number(number) : null;
  let shown: Shown | null = null;
  if (from === "bench") shown = { number: null, values: bench };
  else if (whole !== null) shown = { number: whole, values: null };
  const preview = usePreview(form.key, entry, shown);
  return (
    <section aria-label={t("beforehand")} className="min-w-0">
      <fieldset className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <legend className="float-left mr-4 text-muted">{t("as_it_would_read_about")}</legend>
        <label className="flex items-center gap-1.5">
          <input
            type="radio"
            className="size-4 accent-thistle"
            checked={from === "record"}
            onChange={() => setFrom("record")}
          />
          {t("record")}
          <input
            aria-label={t("number_of_the_record")}
            inputMode="numeric"
            className="line-input w-20"
            value={number}
            onFocus={() => setFrom("record")}
            onChange={(event) => setNumber(event.target.value)}
          />
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="radio"
            className="size-4 accent-thistle"
            checked={from === "bench"}
            onChange={() => setFrom("bench")}
          />
          {t("what_is_on_the_bench")}
        </label>
      </fieldset>
      {shown === null && <p className="text-muted">{t("write_the_number_of_a_stored_record")}</p>}
      {isUnsaid(preview.error) ? (
        <p className="text-muted">{t("once_its_condition_is_said_it_is")}</p>
      ) : (
        <Trouble error={shown && preview.error} />
      )}
      {shown && preview.data && !preview.error && (
        <>
          {!preview.data.met && (
            <p className="mb-1 text-ochre">{t("this_record_does_not_meet_the_condition")}</p>
          )}
          {preview.data.troubles.map((one) => (
            <p key={one} className="mb-1 text-ochre">
              {one}
            </p>
          ))}
          <LetterSheet letter={preview.data.letter} />
        </>
      )}
    </section>
  );
}
