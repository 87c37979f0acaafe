// The control of one field, by its type. It reads nothing into what is typed: the server does.
import { words } from "../../words";
import { typeOf } from "../field-types";
import type { ControlProps } from "../field-types/control";

const t = words("formSheet");

export function FieldControl(props: ControlProps) {
  const { Control } = typeOf(props.field);
  return <Control {...props} />;
}

/** A value where nothing is entered: no box, no cursor, not in the order of tabs. */
export function ShownValue({
  field,
  words,
  judged,
}: Pick<ControlProps, "field" | "words" | "judged">) {
  // Until the server has said how it reads, it is not called blank.
  if (!judged) return <span className="text-muted">…</span>;
  if (words === undefined) return <span className="text-muted">{t("blank")}</span>;
  return <span className="whitespace-pre-line">{typeOf(field).shown(words, field)}</span>;
}
