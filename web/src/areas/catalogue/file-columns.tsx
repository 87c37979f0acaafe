// The columns of a CSV file, with the field and the rules that each suggests: taken or left.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Tick } from "../../ui/inputs";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { typeOf } from "../field-types";

const t = words("catalogue");

type Column = Schemas["ColumnProfile"];
type Profile = Schemas["Profile"];
export type Accepted = { fields: Column["field"][]; rules: Column["rules"][number]["rule"][] };
type Props = { onAccept: (accepted: Accepted) => void };

/** Characters of a file that are looked at; more would not change what it suggests. */
const LOOKED_AT = 900_000;

/** The beginning of a file, up to the end of a line. */
async function beginningOf(file: File) {
  const text = await file.text();
  if (text.length <= LOOKED_AT) return { text, whole: true };
  return { text: text.slice(0, text.lastIndexOf("\n", LOOKED_AT)), whole: false };
}

export function FileColumns({ onAccept }: Props) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const profile = useMutation({
    mutationFn: async (file: File) => {
      const { text, whole } = await beginningOf(file);
      const found = await answer(client.POST("/api/v1/profiles", { body: { text } }));
      return { found, whole };
    },
    onSuccess: ({ found }) => {
      setLeft(new Set());
      onAccept(acceptedOf(found, new Set()));
    },
    onError: () => onAccept({ fields: [], rules: [] }),
  });
  const found = profile.data?.found;
  function turn(key: string, take: boolean) {
    if (!found) return;
    const next = new Set(left);
    if (take) next.delete(key);
    else next.add(key);
    setLeft(next);
    onAccept(acceptedOf(found, next));
  }
  return (
    <div className="mt-2">
      <label className="block">
        {t("a_csv_file_with_a_line_of")}
        <input
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          className="mt-1 block file:mr-3 file:cursor-pointer file:rounded-xs file:border file:border-edge file:bg-leaf file:px-3 file:py-1"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) profile.mutate(file);
          }}
        />
      </label>
      {profile.isPending && <p role="status">{t("reading_the_file")}</p>}
      <Trouble error={profile.error} />
      {found && (
        <>
          <p className="mt-2 text-muted">
            {t("rows_rows_take_the_tick_off_what", {
              rows: found.rows,
              rowsShown: writtenNumber(found.rows),
              isWhole: String(Boolean(profile.data?.whole === false)),
              isRepeatedrows: String(Boolean(found.repeated_rows > 0)),
              repeated_rows: found.repeated_rows,
            })}
          </p>
          <table className="mt-2 w-full">
            <thead>
              <tr className="text-left text-muted *:pr-3 *:font-normal">
                <th scope="col">{t("field")}</th>
                <th scope="col">{t("what_stands_there")}</th>
                <th scope="col">{t("rules_2")}</th>
              </tr>
            </thead>
            <tbody>
              {found.columns.map((column) => (
                <ColumnRow key={column.field.key} column={column} left={left} onTurn={turn} />
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}

function fieldMark({ field }: Column) {
  return `field:${field.key}`;
}

/** What is taken: a rule only with its field. */
function acceptedOf(profile: Profile, left: ReadonlySet<string>): Accepted {
  const columns = profile.columns.filter((column) => !left.has(fieldMark(column)));
  return {
    fields: columns.map((column) => column.field),
    rules: columns.flatMap((column) =>
      column.rules.map(({ rule }) => rule).filter((rule) => !left.has(rule.key)),
    ),
  };
}

type RowProps = {
  column: Column;
  left: ReadonlySet<string>;
  onTurn: (key: string, take: boolean) => void;
};

function ColumnRow({ column, left, onTurn }: RowProps) {
  const mark = fieldMark(column);
  const taken = !left.has(mark);
  return (
    <tr className="border-t border-hairline align-top *:py-1.5 *:pr-3">
      <td>
        <Tick checked={taken} onChange={(take) => onTurn(mark, take)}>
          {column.heading}
        </Tick>
        <span className="block pl-6 text-sm text-muted">
          {typeOf(column.field).holds(column.field)}
        </span>
      </td>
      <td className="text-sm text-muted">
        {t("reason_and_blanks", { because: column.because, blank: column.blank })}
        <span className="block">{column.samples.join(" · ")}</span>
      </td>
      <td>
        {column.rules.map(({ rule, because }) => (
          <span key={rule.key} className="block">
            <Tick
              checked={taken && !left.has(rule.key)}
              onChange={(take) => onTurn(rule.key, take)}
            >
              {rule.name}
            </Tick>
            <span className="block pl-6 text-sm text-muted">{because}</span>
          </span>
        ))}
      </td>
    </tr>
  );
}
