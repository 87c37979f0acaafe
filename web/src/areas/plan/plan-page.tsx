// The plan of a form: what must be true of its data, in plain words, the rules that cover it, and the cases that prove it.
import { Plus } from "lucide-react";
import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { Sentence } from "../../ui/sentence";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { coveringOf } from "./covering";
import { LineRow, RuleLink } from "./plan-line";
import { useAddLine } from "./queries";

const t = words("plan");

const USUAL = { show: "" };
export function PlanPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <Plan key={formKey} form={form} /> : null;
}

function Plan({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const [asked, ask] = useAddress(USUAL);
  const bare = asked.show === "open";
  const covering = coveringOf(form);
  const { isHeld, unplanned } = covering;
  const open = covering.open.length;
  const shown = bare ? covering.open : form.plan;
  return (
    <Page title={t("plan")} of={form.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <p className="flex items-baseline gap-4">
        <span>{t("what_must_be_true_of_the_data")}</span>
        {open > 0 && (
          <label className="ml-auto flex items-center gap-1.5 whitespace-nowrap text-ochre">
            <input
              type="checkbox"
              className="size-4 accent-thistle"
              checked={bare}
              onChange={(event) => ask({ show: event.target.checked ? "open" : "" })}
            />
            {t("open_not_covered_or_not_proved_show", { open })}
          </label>
        )}
      </p>
      <ol className="mt-3 border-t border-edge">
        {shown.map((line) => (
          <LineRow key={line.key} form={form} line={line} held={isHeld(line)} mayEdit={mayEdit} />
        ))}
      </ol>
      {form.plan.length === 0 && (
        <p className="py-4 text-muted">{t("nothing_is_planned_yet_write_the_first")}</p>
      )}
      {mayEdit && <NewLine form={form} />}
      {form.plan.length > 0 && unplanned.length > 0 && (
        <details className="mt-6">
          <summary className="cursor-pointer text-muted">
            {t("length_rules_belong_to_no_line", {
              length: unplanned.length,
              count: unplanned.length,
            })}
          </summary>
          <ul className="mt-1 pl-5">
            {unplanned.map(({ rule, called, sentence }) => (
              <li key={rule.key} className="py-0.5">
                <RuleLink form={form} rule={rule.key}>
                  {called}
                </RuleLink>
                <span className="block text-muted">
                  <Sentence segments={sentence} />
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </Page>
  );
}

function NewLine({ form }: { form: FormView }) {
  const [text, setText] = useState("");
  const add = useAddLine(form, () => setText(""));
  function submit(event: FormEvent) {
    event.preventDefault();
    if (text.trim()) add.mutate(text);
  }
  return (
    <form onSubmit={submit} className="mt-3">
      <div className="flex gap-2">
        <label className="grow">
          <span className="sr-only">{t("a_new_line_of_the_plan")}</span>
          <input
            className="line-input w-full"
            placeholder={t("what_must_be_true_in_plain_words")}
            spellCheck
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <Button type="submit" busy={add.isPending || !text.trim()}>
          <Plus size={16} aria-hidden="true" /> {t("add_line")}
        </Button>
      </div>
      <Trouble error={add.error} />
    </form>
  );
}
