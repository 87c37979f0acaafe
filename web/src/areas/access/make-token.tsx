// A token made for another system; its text is shown here once, and nowhere again.

import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { Line, Tick } from "../../ui/inputs";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { ShownOnce } from "./shown-once";
import { type NewToken, useMakeToken } from "./token-queries";

const t = words("access");

type Props = { formKey: string; onClose: () => void };
type Act = NewToken["acts"][number];

const ACTS: readonly (readonly [Act, string])[] = [
  ["read", t("read_records")],
  ["judge", t("have_records_judged")],
  ["save", t("save_records")],
  ["submit", t("submit_records")],
];

export function MakeToken({ formKey, onClose }: Props) {
  const [name, setName] = useState("");
  const [acts, setActs] = useState<readonly Act[]>(["read", "judge"]);
  const [further, setFurther] = useState<readonly string[]>([]);
  const [lastDay, setLastDay] = useState("");
  const make = useMakeToken(formKey);
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    make.mutate({ name, acts: [...acts], forms: [...further], last_day: lastDay || null });
  }
  if (make.data)
    return (
      <ShownOnce
        what="token"
        says={t("the_token_for_name", { name })}
        text={make.data.text}
        onClose={onClose}
      />
    );
  return (
    <form
      aria-label={t("new_token")}
      onSubmit={submit}
      className="my-3 grid gap-4 border-l-4 border-thistle bg-leaf px-5 py-4 md:grid-cols-2"
    >
      <Line label={t("what_it_is_for")} value={name} onChange={setName} />
      <DayInput label={t("last_day_optional")} labelShown value={lastDay} onChange={setLastDay} />
      <fieldset>
        <legend className="text-muted">{t("with_it_one_may")}</legend>
        {ACTS.map(([act, words]) => (
          <Tick
            key={act}
            checked={acts.includes(act)}
            onChange={(take) => setActs(toggled(acts, act, take))}
          >
            {words}
          </Tick>
        ))}
      </fieldset>
      <fieldset>
        <legend className="text-muted">{t("in_this_form_and_in")}</legend>
        {(forms.data ?? [])
          .filter(({ key }) => key !== formKey)
          .map((form) => (
            <Tick
              key={form.key}
              checked={further.includes(form.key)}
              onChange={(take) => setFurther(toggled(further, form.key, take))}
            >
              {form.name}
            </Tick>
          ))}
      </fieldset>
      <div className="md:col-span-2">
        <Trouble error={make.error} />
        <div className="mt-2 flex gap-2">
          <Button look="solid" type="submit" busy={make.isPending} disabled={acts.length === 0}>
            {t("create_token")}
          </Button>
          <Button onClick={onClose}>{t("cancel")}</Button>
        </div>
      </div>
    </form>
  );
}

function toggled<T>(all: readonly T[], one: T, take: boolean) {
  return take ? [...all, one] : all.filter((other) => other !== one);
}
