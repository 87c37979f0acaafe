// A record of another form, by its number.
import { useQuery } from "@tanstack/react-query";
import { useContext } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { ChoicePart } from "../../ui/choice-part";
import { Tick } from "../../ui/inputs";
import { words } from "../../words";
import type { ControlProps } from "./control";
import type { FieldOf } from "./field";
import { ReferenceControl, ReferredRecord } from "./reference-control";
import { SeesRecords } from "./sees-records";
import type { SettingsProps, TypeOf } from "./type";
import { Typed } from "./typed-control";

const t = words("fields");

function Control(props: ControlProps & { field: FieldOf<"reference"> }) {
  if (!useContext(SeesRecords)) return <Typed {...props} />;
  return <ReferenceControl {...props} form={props.field.form} />;
}

function Settings({ field, onChange }: SettingsProps<"reference">) {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const options = (forms.data ?? []).map(({ key, name }) => ({ value: key, label: name }));
  return (
    <div className="flex flex-wrap items-baseline gap-x-6">
      <span>
        {t("of_the_form")}{" "}
        <ChoicePart
          label={t("form_referred_to")}
          value={field.form}
          groups={[{ options }]}
          onChoose={(form) => onChange({ form })}
        />
      </span>
      <Tick checked={field.held_allowed} onChange={(held_allowed) => onChange({ held_allowed })}>
        {t("a_record_on_hold_may_be_referred")}
      </Tick>
    </div>
  );
}

function Shown(props: { form: string; number: string }) {
  return useContext(SeesRecords) ? <ReferredRecord {...props} /> : props.number;
}

export const reference: TypeOf<"reference"> = {
  type: "reference",
  words: t("a_record_of_another_form"),
  begins: () => ({ type: "reference", form: "", held_allowed: true }),
  holds: () => t("a_record_of_another_form"),
  Settings,
  Control,
  look: () => ({}),
  isBounded: false,
  isGroup: false,
  shown: (words, { form }) => <Shown form={form} number={words} />,
};
