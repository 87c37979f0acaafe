// One case opened: what it fills in and expects, how it disagrees, and what can be done about it.
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { writtenDay } from "../../ui/written";
import { words } from "../../words";
import { useTurn } from "../form/draft-act";
import { wayWords } from "../form/entry-points";
import type { FormView } from "../form/form";
import { expectations } from "./expectations";
import { type CaseTable, type CaseView, useAccept, useChangeCase, useRemoveCases } from "./queries";

const t = words("cases");

const AGAIN = ".again";
type Props = { form: FormView; rules: CaseTable["rules"]; row: CaseView; mayEdit: boolean };

export function CaseDetails({ form, rules, row, mayEdit }: Props) {
  const labels = new Map(form.fields.map(({ field }) => [field.key, field.label]));
  const labelOf = (key: string) =>
    labels.get(key) ??
    (key.endsWith(AGAIN)
      ? t("value_once_more", { value: labels.get(key.slice(0, -AGAIN.length)) ?? key })
      : key);
  const said = row.case.circumstances;
  const navigate = useNavigate();
  const remove = useRemoveCases(form.key, () =>
    notify({ text: t("name_is_removed", { name: row.case.name }), undo: () => undo.mutate() }),
  );
  const undo = useTurn(form.key, "undo");
  const notify = useNotify();
  const expected = row.case.expected;
  return (
    <div className="grid gap-x-8 gap-y-2 py-2 pl-7 text-[0.95rem] lg:grid-cols-2">
      <section aria-label={t("what_name_fills_in", { name: row.case.name })}>
        <p className="text-muted">
          {t("a_new_record_as_of_as_of", {
            isEventUpdate: String(Boolean(said.event === "update")),
            as_of: writtenDay(said.as_of),
            wayWords: wayWords(said.entry_point ?? "desk"),
          })}{" "}
          {t("role_and_layout", {
            role: said.role ?? t("person_without_a_role"),
            has: String(Boolean(row.layout)),
            layout: row.layout ?? "",
          })}
        </p>
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4">
          {Object.entries(row.entries).map(([key, words]) => (
            <div key={key} className="contents">
              <dt className={labels.has(key) || key.endsWith(".again") ? "" : "text-madder"}>
                {labelOf(key)}
              </dt>
              <dd className={words === "blank" ? "text-muted" : ""}>{words}</dd>
            </div>
          ))}
        </dl>
        {row.case.why && <p className="mt-1 whitespace-pre-line text-muted">{row.case.why}</p>}
      </section>
      <section aria-label={t("what_name_expects", { name: row.case.name })}>
        <p>
          {t("expected_expected", {
            expected: expectations(
              expected,
              (key) => rules.find((rule) => rule.key === key)?.name ?? key,
              labelOf,
            ),
          })}
        </p>
        {row.told.length > 0 && (
          <ul className="mt-1 list-[square] pl-5 text-madder">
            {row.told.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        )}
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Button
            onClick={() => navigate(`/forms/${form.key}/bench`, { state: { case: row.case } })}
          >
            {t("open_on_the_bench")}
          </Button>
          {mayEdit && (
            <Button look="quiet" onClick={() => remove.mutate([row])}>
              {t("remove_it")}
            </Button>
          )}
        </div>
        {mayEdit && row.state === "fails" && <Accept form={form} row={row} />}
        {mayEdit && <About form={form} row={row} />}
        <Trouble error={remove.error} />
      </section>
    </div>
  );
}

/** What happens now is right: expect it from now on, and say why. */
function Accept({ form, row }: { form: FormView; row: CaseView }) {
  const [why, setWhy] = useState("");
  const accept = useAccept(form.key);
  function submit(event: FormEvent) {
    event.preventDefault();
    accept.mutate({ row, why });
  }
  return (
    <form onSubmit={submit} className="mt-2">
      <label className="block">
        <span className="text-muted">{t("what_happens_now_is_right_because")}</span>
        <span className="mt-1 flex gap-2">
          <input
            className="line-input grow"
            required
            minLength={3}
            value={why}
            spellCheck
            onChange={(event) => setWhy(event.target.value)}
          />
          <Button type="submit" busy={accept.isPending}>
            {t("expect_that_from_now_on")}
          </Button>
        </span>
      </label>
      <Trouble error={accept.error} />
    </form>
  );
}

/** Its name, its suite and the reason for its being there. */
function About({ form, row }: { form: FormView; row: CaseView }) {
  const [name, setName] = useState(row.case.name);
  const [suite, setSuite] = useState(row.case.suite ?? "");
  const change = useChangeCase(form.key);
  const same = name === row.case.name && suite === (row.case.suite ?? "");
  function submit(event: FormEvent) {
    event.preventDefault();
    change.mutate({ row, changed: { ...row.case, name, suite } });
  }
  return (
    <form onSubmit={submit} className="mt-2 flex flex-wrap items-end gap-2">
      <label className="grow">
        <span className="block text-sm text-muted">{t("name")}</span>
        <input
          className="line-input w-full"
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label>
        <span className="block text-sm text-muted">{t("suite")}</span>
        <input
          className="line-input w-40"
          value={suite}
          onChange={(event) => setSuite(event.target.value)}
        />
      </label>
      <Button type="submit" busy={same || change.isPending}>
        {t("store")}
      </Button>
      <Trouble error={change.error} />
    </form>
  );
}
