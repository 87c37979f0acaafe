// The cases of a form: the table of cases by rules, what disagrees and why, and running them all.
import { Download, FlaskConical, Play, Upload } from "lucide-react";
import { type ChangeEvent, useMemo, useRef, useState } from "react";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { Chip } from "../../ui/chip";
import { useScrollKept } from "../../ui/kept";
import { useNotify } from "../../ui/notices";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useTurn } from "../form/draft-act";
import { type FormView, useForm } from "../form/form";
import { CaseTableView } from "./case-table";
import { DraftedSheet } from "./drafted-sheet";
import { JobProgress } from "./job-progress";
import { type CaseView, useCases, useImport, useRemoveCases, useRunAll } from "./queries";

const t = words("cases");

type Only = "all" | CaseView["state"];
/** As the address says it: what is looked for and shown, and which case or sheet is open. */
const USUAL = { search: "", state: "", suite: "", case: "", sheet: "" };
const STATE_WORDS: Record<CaseView["state"], string> = {
  fails: t("fail"),
  cannot_run: t("cannot_be_run"),
  not_run: t("not_run_yet"),
  passes: t("pass"),
};
const STATES = Object.keys(STATE_WORDS) as CaseView["state"][];

export function CasesPage() {
  const form = useForm().data;
  return form ? <Cases key={form.key} form={form} /> : null;
}

function Cases({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const table = useCases(form.key);
  const [address, ask] = useAddress(USUAL);
  const only: Only = address.state in STATE_WORDS ? (address.state as CaseView["state"]) : "all";
  const suite = address.suite || null;
  const asked = address.search;
  const drafting = address.sheet === "draft";
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const run = useRunAll(form.key);
  const remove = useRemoveCases(form.key, (rows) => {
    setChosen(new Set());
    const words =
      rows.length === 1
        ? t("name_is", { name: rows[0]?.case.name ?? "" })
        : t("count_cases_are", { count: rows.length, countShown: writtenNumber(rows.length) });
    notify({ text: t("words_removed", { words }), undo: () => undo.mutate() });
  });
  const undo = useTurn(form.key, "undo");
  const notify = useNotify();
  useScrollKept(`cases:${form.key}`);
  const cases = table.data?.cases ?? [];
  const wanted = asked.trim().toLowerCase();
  const shown = cases.filter(
    (row) =>
      (only === "all" || row.state === only) &&
      (suite === null || row.case.suite === suite) &&
      (wanted === "" || `${row.case.name} ${row.case.why}`.toLowerCase().includes(wanted)),
  );
  const picked = shown.filter((row) => chosen.has(row.key));
  return (
    <Page title={t("cases")} of={form.name} className="px-6 py-4">
      <div className="flex flex-wrap items-center gap-2">
        <SearchBox
          label={t("search_the_cases")}
          placeholder={t("search_names_and_reasons")}
          value={asked}
          onChange={(search) => ask({ search })}
        />
        <SuiteChoice cases={cases} suite={suite} onSuite={(next) => ask({ suite: next })} />
        <span className="ml-auto" />
        <Files form={form} mayEdit={mayEdit} />
        {mayEdit && (
          <>
            <Button onClick={() => ask({ sheet: "draft" })}>
              <FlaskConical size={15} aria-hidden="true" /> {t("draft_cases")}
            </Button>
            <Button
              look="solid"
              busy={cases.length === 0 || run.isPending || isUnderWay(table.data?.job)}
              onClick={() => run.mutate()}
            >
              <Play size={15} aria-hidden="true" /> {t("run_all")}
            </Button>
          </>
        )}
      </div>
      <fieldset className="flex flex-wrap items-center gap-x-1 py-1.5 text-sm">
        <legend className="sr-only">{t("which_cases_to_show")}</legend>
        <StateChips cases={cases} only={only} onOnly={(state) => ask({ state })} />
        <JobProgress formKey={form.key} job={table.data?.job ?? null} what="case" />
        {mayEdit && picked.length > 0 && (
          <Button look="quiet" onClick={() => remove.mutate(picked)} busy={remove.isPending}>
            {t("take_length_out", { length: picked.length })}
          </Button>
        )}
      </fieldset>
      <Trouble error={table.error ?? run.error ?? remove.error} />
      {table.data && cases.length === 0 && (
        <p className="max-w-2xl py-6 text-muted">{t("no_case_is_kept_yet_try_the")}</p>
      )}
      {cases.length > 0 && shown.length === 0 && (
        <p className="py-4 text-muted">{t("no_case_is_to_be_shown_this")}</p>
      )}
      {table.data && shown.length > 0 && (
        <CaseTableView
          form={form}
          rules={table.data.rules}
          rows={shown}
          mayEdit={mayEdit}
          chosen={chosen}
          onChoose={setChosen}
          open={address.case || null}
          onOpen={(key) => ask({ case: key ?? "" })}
        />
      )}
      {drafting && (
        <DraftedSheet form={form} open={drafting} onOpenChange={() => ask({ sheet: "" })} />
      )}
    </Page>
  );
}

type SuiteProps = { cases: CaseView[]; suite: string | null; onSuite: (suite: string) => void };

function SuiteChoice({ cases, suite, onSuite }: SuiteProps) {
  const suites = useMemo(
    () => [...new Set(cases.map((row) => row.case.suite ?? ""))].filter(Boolean).sort(),
    [cases],
  );
  return (
    <label>
      <span className="sr-only">{t("suite")}</span>
      <select
        className="line-input"
        value={suite ?? ""}
        onChange={(event) => onSuite(event.target.value)}
      >
        <option value="">{t("every_suite")}</option>
        {suites.map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
    </label>
  );
}

type ChipsProps = {
  cases: CaseView[];
  only: Only;
  onOnly: (state: "" | CaseView["state"]) => void;
};

function StateChips({ cases, only, onOnly }: ChipsProps) {
  return (
    <>
      <Chip chosen={only === "all"} onChoose={() => onOnly("")}>
        {t("all_length", { length: cases.length })}
      </Chip>
      {STATES.map((state) => {
        const count = cases.filter((row) => row.state === state).length;
        return (
          count > 0 && (
            <Chip key={state} chosen={only === state} onChoose={() => onOnly(state)}>
              {STATE_WORDS[state]} {count}
            </Chip>
          )
        );
      })}
    </>
  );
}

/** Cases out as a file, and in again. */
function Files({ form, mayEdit }: { form: FormView; mayEdit: boolean }) {
  const take = useImport(form.key);
  const notify = useNotify();
  const input = useRef<HTMLInputElement>(null);
  async function read(event: ChangeEvent<HTMLInputElement>) {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    const text = await file.text();
    take.mutate(
      { name: file.name, text },
      {
        onSuccess: (keys) =>
          notify({
            text: t("count_cases_were_taken_in", {
              count: keys.length,
              countShown: writtenNumber(keys.length),
            }),
          }),
      },
    );
  }
  return (
    <>
      <a
        className="inline-flex min-h-8 items-center gap-1.5 px-2 text-thistle hover:underline"
        href={`/api/v1/forms/${form.key}/case-file?format=json`}
        download
      >
        <Download size={15} aria-hidden="true" /> {t("json")}
      </a>
      <a
        className="inline-flex min-h-8 items-center gap-1.5 px-2 text-thistle hover:underline"
        href={`/api/v1/forms/${form.key}/case-file?format=csv`}
        download
      >
        <Download size={15} aria-hidden="true" /> {t("csv")}
      </a>
      {mayEdit && (
        <>
          <input
            ref={input}
            type="file"
            className="sr-only"
            accept=".json,.csv"
            aria-label={t("case_file")}
            tabIndex={-1}
            onChange={read}
          />
          <Button look="quiet" onClick={() => input.current?.click()} busy={take.isPending}>
            <Upload size={15} aria-hidden="true" /> {t("import_cases")}
          </Button>
        </>
      )}
      {take.error && (
        <div className="basis-full">
          <Trouble error={take.error} />
        </div>
      )}
    </>
  );
}
