// A reference to a record of another form, by its number, with the records that fit what is typed.
import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { type ControlProps, isWrong, typedValue } from "./field-control";

export function ReferenceControl({
  id,
  form,
  value,
  described,
  hardest,
  onChange,
  onTouch,
  readOnly,
}: ControlProps & { form: string }) {
  const typed = typedValue(value);
  const found = useQuery({
    queryKey: ["records", form, "referred", typed],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/records", {
          params: { path: { form_key: form }, query: { search: typed } },
        }),
      ),
    placeholderData: (before) => before,
  });
  const records = found.data?.records ?? [];
  const chosen = records.find((record) => String(record.number) === typed);
  return (
    <span className="flex items-center gap-3">
      <input
        id={id}
        className="line-input w-44"
        list={`${id}-records`}
        autoComplete="off"
        value={typed}
        readOnly={readOnly}
        aria-describedby={described}
        aria-invalid={isWrong(hardest)}
        data-told={hardest}
        onBlur={onTouch}
        onChange={(event) => onChange(event.target.value)}
      />
      <datalist id={`${id}-records`}>
        {records.map((record) => (
          <option key={record.number} value={String(record.number)}>
            {record.title}
          </option>
        ))}
      </datalist>
      {chosen && (
        <span className="text-muted">
          {chosen.title}
          {chosen.on_hold ? ", on hold" : ""}
        </span>
      )}
    </span>
  );
}
