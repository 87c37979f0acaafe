// Tiers of proposals as a table: each row begins where the one before it ends, so they meet.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { counted } from "../../ui/counts";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { type FormView, oneByOne, useRefresh, useTurn } from "../form/form";

type Tiers = Schemas["Tiers"];
type Row = Tiers["rows"][number];
type Found = Schemas["TiersView"];
type Props = { form: FormView; onClose: () => void };

const NEW_ROW: Row = { upto: "", included: true, value: null, title: "" };

function begun(form: FormView): Tiers {
  const numbers = form.fields.filter(({ field }) => "unit" in field).map(({ field }) => field.key);
  return {
    governor: numbers[0] ?? "",
    field: numbers[1] ?? "",
    title: "",
    begin: "0",
    begin_included: false,
    rows: [{ ...NEW_ROW }, { ...NEW_ROW }],
  };
}

export function TierSheet({ form, onClose }: Props) {
  const found = useQuery({
    queryKey: ["tiers", form.key],
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/tiers", { params: { path: { form_key: form.key } } }),
      ),
  });
  const [chosen, setChosen] = useState<{ tiers: Tiers; found: Found | null } | null>(null);
  const labelOf = (key: string) =>
    form.fields.find(({ field }) => field.key === key)?.field.label ?? key;
  return (
    <Sheet title="Tiers of proposals" wide open onOpenChange={(open) => !open && onClose()}>
      <Trouble error={found.error} />
      {chosen ? (
        <Table form={form} start={chosen.tiers} found={chosen.found} onDone={onClose} />
      ) : (
        <>
          <ul>
            {found.data?.map((one) => (
              <li key={one.rules.join()} className="border-t border-hairline">
                <button
                  type="button"
                  className="block w-full px-2 py-2 text-left hover:bg-tint"
                  onClick={() => setChosen({ tiers: one.tiers, found: one })}
                >
                  <i>{labelOf(one.tiers.field)}</i> by <i>{labelOf(one.tiers.governor)}</i>, in{" "}
                  {one.rules.length} tiers
                  {one.findings.map((finding) => (
                    <span key={finding} className="block text-ochre">
                      {finding}
                    </span>
                  ))}
                </button>
              </li>
            ))}
          </ul>
          <Button
            look="solid"
            className="mt-3"
            onClick={() => setChosen({ tiers: begun(form), found: null })}
          >
            A new table
          </Button>
        </>
      )}
    </Sheet>
  );
}

type TableProps = { form: FormView; start: Tiers; found: Found | null; onDone: () => void };
const ENDS = [
  { value: "yes", label: "up to and including" },
  { value: "no", label: "up to, without" },
];

function Table({ form, start, found, onDone }: TableProps) {
  const [tiers, setTiers] = useState(start);
  const refresh = useRefresh(form.key);
  const notify = useNotify();
  const undo = useTurn(form.key, "undo");
  const store = useMutation({
    scope: oneByOne(form.key),
    mutationFn: () => {
      const versions = form.rules.filter((view) => found?.rules.includes(view.rule.key));
      const replaced = versions.map(({ rule, revision }) => ({ key: rule.key, revision }));
      return answer(
        client.PUT("/api/v1/forms/{form_key}/tiers", {
          params: { path: { form_key: form.key } },
          body: { tiers, replaced },
        }),
      );
    },
    onSuccess: (keys) => {
      refresh();
      notify({
        text: `The table is stored as ${counted(keys.length, "rule")}.`,
        undo: () => undo.mutate(),
      });
      onDone();
    },
  });
  const numbers = form.fields
    .filter(({ field }) => "unit" in field)
    .map(({ field }) => ({ value: field.key, label: field.label }));
  const fields = form.fields.map(({ field }) => ({ value: field.key, label: field.label }));
  const put = (part: Partial<Tiers>) => setTiers({ ...tiers, ...part });
  const putRow = (index: number, part: Partial<Row>) =>
    put({ rows: tiers.rows.map((row, at) => (at === index ? { ...row, ...part } : row)) });
  const cell = "line-input w-24";
  return (
    <>
      <p className="font-serif text-lg">
        By{" "}
        <ChoicePart
          label="Field that decides"
          italic
          value={tiers.governor}
          groups={[{ options: numbers }]}
          onChoose={(governor) => put({ governor })}
        />
        , a value is proposed for{" "}
        <ChoicePart
          label="Field proposed for"
          italic
          value={tiers.field}
          groups={[{ options: fields }]}
          onChoose={(field) => put({ field })}
        />
      </p>
      <label className="mt-2 flex items-baseline gap-2">
        Every proposal is called, unless it says otherwise,
        <input
          className="line-input grow"
          spellCheck
          value={tiers.title}
          onChange={(event) => put({ title: event.target.value })}
        />
      </label>
      {found?.findings.map((finding) => (
        <p key={finding} className="text-ochre">
          As the rules are now: {finding}
        </p>
      ))}
      <table className="mt-3 w-full">
        <thead>
          <tr className="text-left text-muted *:font-normal">
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">Proposed</th>
            <th scope="col">Called</th>
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {tiers.rows.map((row, index) => {
            const before = tiers.rows[index - 1];
            const last = index === tiers.rows.length - 1;
            const number = index + 1;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a row has no identity but its place
              <tr key={index} className="border-t border-hairline *:py-1">
                <td>
                  {before ? (
                    <span className="text-muted">
                      {before.included ? "over " : "from "}
                      {before.upto || "…"}
                    </span>
                  ) : (
                    <span className="flex items-center gap-1">
                      <ChoicePart
                        label="Whether the lowest amount belongs to it"
                        value={tiers.begin_included ? "yes" : "no"}
                        groups={[
                          {
                            options: [
                              { value: "no", label: "over" },
                              { value: "yes", label: "from" },
                            ],
                          },
                        ]}
                        onChoose={(one) => put({ begin_included: one === "yes" })}
                      />
                      <input
                        aria-label="Lowest amount"
                        className="line-input w-24"
                        value={tiers.begin}
                        onChange={(event) => put({ begin: event.target.value })}
                      />
                    </span>
                  )}
                </td>
                <td>
                  <span className="flex items-center gap-1">
                    <ChoicePart
                      label={`Whether the end of tier ${number} belongs to it`}
                      value={row.included ? "yes" : "no"}
                      groups={[{ options: ENDS }]}
                      onChoose={(one) => putRow(index, { included: one === "yes" })}
                    />
                    <input
                      aria-label={`End of tier ${number}`}
                      className={cell}
                      placeholder={last ? "without end" : ""}
                      value={row.upto}
                      onChange={(event) => putRow(index, { upto: event.target.value })}
                    />
                  </span>
                </td>
                <td>
                  <input
                    aria-label={`Proposed in tier ${number}`}
                    className={cell}
                    placeholder="nothing"
                    value={row.value ?? ""}
                    onChange={(event) => putRow(index, { value: event.target.value || null })}
                  />
                </td>
                <td>
                  <input
                    aria-label={`What tier ${number} is called`}
                    className="line-input w-44"
                    spellCheck
                    placeholder={tiers.title}
                    value={row.title}
                    onChange={(event) => putRow(index, { title: event.target.value })}
                  />
                </td>
                <td className="text-right">
                  {tiers.rows.length > 1 && (
                    <Button
                      look="quiet"
                      aria-label={`Remove tier ${number}`}
                      onClick={() => put({ rows: tiers.rows.filter((_, at) => at !== index) })}
                    >
                      remove
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Trouble error={store.error} />
      <div className="mt-3 flex gap-2">
        <Button look="solid" busy={store.isPending} onClick={() => store.mutate()}>
          Save table
        </Button>
        <Button onClick={() => put({ rows: [...tiers.rows, { ...NEW_ROW }] })}>
          One more tier
        </Button>
      </div>
    </>
  );
}
