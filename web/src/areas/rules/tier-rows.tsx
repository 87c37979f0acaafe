// The rows of a table of tiers: each begins where the one before it ends.
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { words } from "../../words";

const t = words("rules");

export type Tiers = Schemas["Tiers"];
type Row = Tiers["rows"][number];
type Props = { tiers: Tiers; onChange: (part: Partial<Tiers>) => void };

export const NEW_ROW: Row = { upto: "", included: true, value: null, title: "" };

const ENDS = [
  { value: "yes", label: t("up_to_and_including") },
  { value: "no", label: t("up_to_without") },
];
const BEGINNINGS = [
  { value: "no", label: t("over_2") },
  { value: "yes", label: t("from_3") },
];
const CELL = "line-input w-24";

export function TierRows({ tiers, onChange }: Props) {
  const putRow = (index: number, part: Partial<Row>) =>
    onChange({ rows: tiers.rows.map((row, at) => (at === index ? { ...row, ...part } : row)) });
  return (
    <table className="mt-3 w-full">
      <thead>
        <tr className="text-left text-muted *:font-normal">
          <th scope="col">{t("from")}</th>
          <th scope="col">{t("to_2")}</th>
          <th scope="col">{t("proposed")}</th>
          <th scope="col">{t("called_2")}</th>
          <th scope="col">
            <span className="sr-only">{t("remove_2")}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {tiers.rows.map((row, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row has no identity but its place
          <tr key={index} className="border-t border-hairline *:py-1">
            <td>
              {index === 0 ? (
                <Beginning tiers={tiers} onChange={onChange} />
              ) : (
                <EndOf row={tiers.rows[index - 1]} />
              )}
            </td>
            <RowCells
              row={row}
              number={index + 1}
              isLast={index === tiers.rows.length - 1}
              title={tiers.title}
              onChange={(part) => putRow(index, part)}
            />
            <td className="text-right">
              {tiers.rows.length > 1 && (
                <Button
                  look="quiet"
                  aria-label={t("remove_tier_number", { number: index + 1 })}
                  onClick={() => onChange({ rows: tiers.rows.filter((_, at) => at !== index) })}
                >
                  {t("remove")}
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Where the first tier begins. */
function Beginning({ tiers, onChange }: Props) {
  return (
    <span className="flex items-center gap-1">
      <ChoicePart
        label={t("whether_the_lowest_amount_belongs_to_it")}
        value={tiers.begin_included ? "yes" : "no"}
        groups={[{ options: BEGINNINGS }]}
        onChoose={(one) => onChange({ begin_included: one === "yes" })}
      />
      <input
        aria-label={t("lowest_amount")}
        className={CELL}
        value={tiers.begin}
        onChange={(event) => onChange({ begin: event.target.value })}
      />
    </span>
  );
}

/** Where the tier before ends, which is where this one begins. */
function EndOf({ row }: { row: Row | undefined }) {
  return (
    <span className="text-muted">
      {row?.included ? t("over") : t("from_2")}
      {row?.upto || "…"}
    </span>
  );
}

type CellsProps = {
  row: Row;
  number: number;
  isLast: boolean;
  /** What it is called unless it says so itself. */
  title: string;
  onChange: (part: Partial<Row>) => void;
};

function RowCells({ row, number, isLast, title, onChange }: CellsProps) {
  return (
    <>
      <td>
        <span className="flex items-center gap-1">
          <ChoicePart
            label={t("whether_the_end_of_tier_number_belongs", { number })}
            value={row.included ? "yes" : "no"}
            groups={[{ options: ENDS }]}
            onChoose={(one) => onChange({ included: one === "yes" })}
          />
          <input
            aria-label={t("end_of_tier_number", { number })}
            className={CELL}
            placeholder={isLast ? t("without_end") : ""}
            value={row.upto}
            onChange={(event) => onChange({ upto: event.target.value })}
          />
        </span>
      </td>
      <td>
        <input
          aria-label={t("proposed_in_tier_number", { number })}
          className={CELL}
          placeholder={t("nothing")}
          value={row.value ?? ""}
          onChange={(event) => onChange({ value: event.target.value || null })}
        />
      </td>
      <td>
        <input
          aria-label={t("what_tier_number_is_called", { number })}
          className="line-input w-44"
          spellCheck
          placeholder={title}
          value={row.title}
          onChange={(event) => onChange({ title: event.target.value })}
        />
      </td>
    </>
  );
}
