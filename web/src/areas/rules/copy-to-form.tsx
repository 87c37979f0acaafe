// A rule copied to another form: its fields matched by key, and the rest asked.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { Sentence } from "../../ui/sentence";
import { Sheet } from "../../ui/sheet";
import { ProblemList, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { useDraftAct } from "../form/draft-act";
import { type FormView, formQuery } from "../form/form";
import type { Rule } from "../form/rule";

const t = words("rules");

type Props = {
  form: FormView;
  rule: Rule;
  called: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

export function CopyToForm({ form, rule, called, open, onOpenChange }: Props) {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
    enabled: open,
  });
  const [aim, setAim] = useState("");
  const others = (forms.data ?? []).filter((one) => one.key !== form.key);
  return (
    <Sheet
      title={t("copy_called_to_another_form", { called })}
      open={open}
      onOpenChange={onOpenChange}
    >
      <p>
        {t("to_the_form")}{" "}
        <ChoicePart
          label={t("form_it_is_copied_to")}
          value={aim}
          placeholder={t("which_form")}
          groups={[{ options: others.map(({ key, name }) => ({ value: key, label: name })) }]}
          onChoose={setAim}
        />
      </p>
      {aim && (
        <Matching
          key={aim}
          form={form}
          aim={aim}
          rule={rule}
          called={called}
          onDone={() => onOpenChange(false)}
        />
      )}
    </Sheet>
  );
}

type MatchingProps = {
  form: FormView;
  aim: string;
  rule: Rule;
  called: string;
  onDone: () => void;
};

function Matching({ form, aim, rule, called, onDone }: MatchingProps) {
  const there = useQuery(formQuery(aim)).data;
  const [names, setNames] = useState<Record<string, string>>({});
  const [asked, setAsked] = useState<string[]>([]);
  const path = { form_key: aim };
  const reading = useQuery({
    queryKey: keys.copyReading(aim, rule, names),
    queryFn: async () => {
      const read = await answer(
        client.POST("/api/v1/forms/{form_key}/rule-copies/read", {
          params: { path },
          body: { rule, clauses: {}, names },
        }),
      );
      // What has been asked once stays on the screen after it is answered.
      setAsked((before) => [...new Set([...before, ...read.missing])]);
      return read;
    },
    placeholderData: (before) => before,
  });
  const copy = useDraftAct(aim, {
    act: (copied: Rule) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/rules", {
          params: { path },
          body: { rule: copied, clauses: {}, unfinished: false, draw_key: true },
        }),
      ),
    notice: () => t("called_was_copied_to_name", { called, name: there?.name ?? "" }),
    done: onDone,
  });
  const labelOf = (key: string) =>
    form.fields.find(({ field }) => field.key === key)?.field.label ??
    form.setup.conditions.find((one) => one.key === key)?.name ??
    key;
  const options = there?.fields.map((f) => ({ value: f.field.key, label: f.field.label })) ?? [];
  const data = reading.data;
  const ready = data && data.missing.length === 0 && data.problems.length === 0;
  return (
    <>
      {asked.length > 0 && (
        <ul className="mt-3">
          {asked.map((key) => (
            <li key={key} className="py-0.5">
              {t.rich("what_here_is_key_is_there", {
                i: (chunks) => <i>{chunks}</i>,
                key: labelOf(key),
              })}{" "}
              <ChoicePart
                label={t("field_that_stands_for_key", { key: labelOf(key) })}
                italic
                value={names[key] ?? ""}
                placeholder={t("which_field")}
                groups={[{ options }]}
                onChoose={(chosen) => setNames({ ...names, [key]: chosen })}
              />
            </li>
          ))}
        </ul>
      )}
      <div role="status" className="mt-3">
        {data && data.missing.length === 0 && data.problems.length > 0 && (
          <div className="text-madder">
            {t("there_it_could_not_work_yet")}
            <ProblemList items={data.problems} />
          </div>
        )}
        {ready && (
          <p className="text-muted">
            {t("there_it_reads")} <Sentence segments={data.sentence} />
          </p>
        )}
      </div>
      <Trouble error={reading.error ?? copy.error} />
      <Button
        look="solid"
        className="mt-3"
        busy={!ready || copy.isPending}
        onClick={() => data && copy.mutate(data.rule)}
      >
        {t("copy_it_there")}
      </Button>
    </>
  );
}
