// Who gets a message: people, roles, whoever is concerned, or the address that a field holds.

import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { ROLES } from "../../api/lists";
import type { Option } from "../../ui/choice-part";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { nameOf, receiverOf } from "./names";
import type { Receiver } from "./queries";

const t = words("messages");

/** All who can be chosen, by how they are said in a sentence. */
export function useReceivers(form: FormView): Option[] {
  const people = useQuery({
    queryKey: keys.colleagues,
    queryFn: () => answer(client.GET("/api/v1/colleagues")),
  });
  return [
    { value: "submitter", label: t("who_submitted_it") },
    { value: "keeper", label: t("who_is_to_go_on_with_it") },
    ...ROLES.map((role) => ({ value: `role ${role}`, label: t("every_role", { role }) })),
    ...(people.data ?? []).map(({ name, shown_name }) => ({
      value: `person ${name}`,
      label: shown_name,
    })),
    ...form.fields.flatMap(addressesIn),
  ];
}

/** A text of the form, or of the record that is referred to, may hold an address. */
function addressesIn({ field, subjects }: FormView["fields"][number]): Option[] {
  if (field.type === "text")
    return [
      {
        value: `field ${field.key}`,
        label: t("the_address_in_label", { label: field.label }),
      },
    ];
  return subjects
    .filter(({ part, type }) => part.startsWith(".") && type === "text")
    .map(({ part, words }) => ({
      value: `field ${field.key}${part}`,
      label: t("the_address_of_label_in_words", { label: field.label, words }),
    }));
}

/** Receivers as a sentence says them. */
export function receiverWords(receivers: readonly Receiver[], options: readonly Option[]) {
  const named = (one: Receiver) => options.find(({ value }) => value === nameOf(one))?.label;
  return receivers.map((one) => named(one) ?? t("somebody_who_is_not_here")).join(", ");
}

type Props = {
  label: string;
  empty: string;
  options: Option[];
  receivers: readonly Receiver[];
  onChange: (receivers: Receiver[]) => void;
};

export function ReceiversPart({ label, empty, options, receivers, onChange }: Props) {
  return (
    <ListInput
      label={label}
      empty={empty}
      inOrderChosen
      values={receivers.map(nameOf)}
      options={options}
      onChange={(names) => onChange(names.map(receiverOf))}
    />
  );
}
