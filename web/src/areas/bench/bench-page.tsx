// The bench: the form on the left as a clerk meets it, saving and submitting on the right.
import { BookmarkPlus, Repeat2, RotateCcw, Ruler } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { focusSoon } from "../../ui/focus";
import { Page, Waiting } from "../../ui/page";
import { useSteady } from "../../ui/pointer";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { FormSheet } from "../form-sheet/form-sheet";
import { controlOf, goToField } from "../form-sheet/going";
import {
  changesOf,
  type Entered,
  type Entries,
  entriesWith,
  type Judgement,
  useTouched,
  type Values,
} from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { Starters } from "../form-sheet/starters";
import { Band } from "./band";
import { Changed } from "./changed";
import { CircumstancesBar } from "./circumstances-bar";
import { KeepCase } from "./keep-case";
import { FieldMap } from "./map";
import { useSteps } from "./steps";
import {
  type BenchForm,
  type BenchInput,
  begunAnew,
  bodyOf,
  type Circumstances,
  flipped,
  inputOf,
  inputOfRecord,
  inputWith,
  useBenchForm,
  useStoredRecord,
  useVerdicts,
} from "./trying";
import { Verdicts } from "./verdicts";
import { Ways } from "./ways";

const t = words("bench");

export function BenchPage() {
  const form = useForm().data;
  return form ? <Bench key={form.key} form={form} /> : null;
}

/** A case, or a stored record as a change to itself, that another screen sends here. */
type Sent = { case?: Schemas["Case"]; record?: number } | null;

function Bench({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const steps = useSteps(form.key, inputWith({}));
  const { now, change } = steps;
  const state = useTouched();
  const bench = useBenchForm(form.key, form.revision, now.circumstances.release).data;
  const [pointedAt, setPointedAt] = useState<readonly string[]>([]);
  /** The field the cursor was in last, and the one the pointer is over. */
  const [newest, setWithin] = useState<string | null>(null);
  const within = useSteady(newest);
  const [over, setOver] = useState<string | null>(null);
  const [banded, setBanded] = useState<string | null>(null);
  const [mapped, setMapped] = useState<[string, string] | null>(null);
  const [keeping, setKeeping] = useState(false);
  const sheet = useRef<HTMLElement>(null);
  const sent = useLocation().state as Sent;
  const taken = useRef<Sent>(null);
  const stored = useStoredRecord(form.key, sent?.record ?? null).data;
  useEffect(() => {
    if (taken.current === sent) return;
    const begun = sent?.case ? inputOf(sent.case) : stored ? inputOfRecord(stored) : null;
    if (!begun) return;
    taken.current = sent;
    change(() => begun);
  }, [sent, stored, change]);

  const body = bench ? bodyOf(now, bench, state.touched) : null;
  const verdicts = useVerdicts(form, body);
  const judgement = verdicts.data;
  const shown = { ...begunWith(judgement, now, form), ...now.entries.values };
  const plain = useMemo(() => (bench ? bodyOf(now, bench) : null), [bench, now]);
  const before = steps.before && bench ? bodyOf(steps.before, bench) : null;

  const changeAttempt = useCallback(
    (update: (entries: Entries) => Entries) =>
      change((one: BenchInput) => ({ ...one, entries: update(one.entries) })),
    [change],
  );
  const setCircumstances = (next: Partial<Circumstances>) =>
    change((one) => ({ ...one, circumstances: { ...one.circumstances, ...next } }));
  const setValues = (values: Record<string, Entered>) =>
    changeAttempt((one) => ({ ...one, values: { ...one.values, ...values } }));

  function flip() {
    const inside = fieldOf(document.activeElement);
    const key = inside ?? steps.lastChanged();
    const field = bench?.fields.find((one) => one.key === key);
    if (!field) return;
    setValues({
      [field.key]: flipped(field, shown[field.key] ?? null, steps.earlier(field.key)),
    });
    state.touch(field.key);
  }
  useBenchKeys({
    f8: flip,
    f9: () => within && setBanded(banded === within ? null : within),
    "alt+,": () => steps.go(-1),
    "alt+.": () => steps.go(1),
    "ctrl+enter": () => judgement && mayEdit && setKeeping(true),
  });

  if (!bench || !plain) return <Waiting>{t("loading_the_bench")}</Waiting>;
  const where = { key: form.key, revision: form.revision };
  const goTo = (key: string) => goToField(key, sheet.current ?? document);
  const sheetChanges = changesOf(changeAttempt, state.touch);
  return (
    <Page
      title={t("bench")}
      of={form.name}
      className="grid w-full grid-cols-1 gap-x-8 px-6 lg:grid-cols-[minmax(0,31rem)_minmax(0,1fr)]"
    >
      <section
        ref={sheet}
        aria-label={t("the_form")}
        className="py-4"
        onFocus={(event) => setWithin(fieldOf(event.target))}
        onMouseOver={(event) => setOver(fieldOf(event.target))}
        onMouseLeave={() => setOver(null)}
        onBlur={steps.settle}
      >
        <div className="flex items-center gap-2">
          <h3 className="mr-auto text-2xl">{t("the_form")}</h3>
          <span className="text-sm text-muted">{t("nothing_is_stored_here")}</span>
          <Button look="quiet" title={t("flip_the_last_answer_back_and_forth")} onClick={flip}>
            <Repeat2 size={15} aria-hidden="true" /> {t("flip")}
          </Button>
          <Button
            onClick={() => {
              steps.begin(begunAnew(now));
              state.begin();
            }}
          >
            <RotateCcw size={15} aria-hidden="true" /> {t("start_again")}
          </Button>
        </div>
        <Starters
          starters={bench.sheet.starters}
          onBegin={(values) =>
            change((one) => ({
              ...begunAnew(one),
              entries: entriesWith(besides(values, bench.sheet.starting)),
            }))
          }
        />
        <PassingBar judgement={judgement} fields={bench.fields} onPress={state.press} />
        <FormSheet
          fields={bench.fields}
          sheet={bench.sheet}
          entries={{ ...now.entries, values: shown }}
          judgement={judgement}
          pressed={state.pressed}
          {...sheetChanges}
          onChange={(key, value) =>
            change(
              (one) => ({
                ...one,
                entries: {
                  ...one.entries,
                  values: { ...one.entries.values, [key]: value },
                },
              }),
              key,
            )
          }
          pointedAt={pointedAt}
          below={(field) => {
            if (!bench.ordered.includes(field.key)) return null;
            if (banded === field.key)
              return (
                <Band
                  form={where}
                  request={plain}
                  field={field.key}
                  label={field.label}
                  value={shown[field.key] ?? null}
                  onChange={(value) => {
                    setValues({ [field.key]: value });
                    state.touch(field.key);
                  }}
                />
              );
            if (within !== field.key) return null;
            return (
              // It lies over the row, so that nothing moves when a field is entered or left.
              <button
                type="button"
                title={t("draw_where_it_passes_f9")}
                aria-label={t("draw_where_label_passes_f9", { label: field.label })}
                className="absolute top-2.5 right-0 flex min-h-7 items-center gap-1 rounded-xs px-1 text-sm text-thistle hover:bg-tint"
                onClick={() => setBanded(field.key)}
              >
                <Ruler size={15} aria-hidden="true" /> F9
              </button>
            );
          }}
        />
      </section>
      <section
        aria-label={t("what_happens")}
        className="border-hairline py-4 lg:sticky lg:top-0 lg:max-h-screen lg:overflow-auto lg:border-l lg:pl-8"
      >
        <div className="flex flex-wrap items-center gap-2">
          <h3 className="mr-auto text-2xl">{t("what_happens")}</h3>
          <Button
            look="quiet"
            onClick={() => setMapped(mapped ? null : firstTwo(bench, within))}
            busy={bench.mapped.length < 2}
          >
            {mapped ? t("close_the_map") : t("map_two_fields")}
          </Button>
          {mayEdit && (
            <Button
              look="solid"
              busy={!judgement}
              title={t("save_as_a_case_ctrl_enter")}
              onClick={() => setKeeping(true)}
            >
              <BookmarkPlus size={15} aria-hidden="true" /> {t("save_as_case")}
            </Button>
          )}
        </div>
        <CircumstancesBar form={bench} value={now.circumstances} onChange={setCircumstances} />
        <Trouble error={verdicts.error} />
        {judgement && (
          <>
            {mapped && (
              <FieldMap
                form={bench}
                revision={form.revision}
                request={plain}
                across={mapped[0]}
                up={mapped[1]}
                onFields={(across, up) => setMapped([across, up])}
                onChoose={(values) => {
                  setValues(values);
                  state.touch(...Object.keys(values));
                }}
              />
            )}
            <Verdicts
              form={bench}
              revision={form.revision}
              request={plain}
              judgement={judgement}
              at={over ?? within}
              within={within}
              onPoint={setPointedAt}
              onGoTo={goTo}
              onSwitch={(rule) => {
                const { off } = now.circumstances;
                setCircumstances({
                  off: off.includes(rule) ? off.filter((one) => one !== rule) : [...off, rule],
                });
              }}
              beside={
                <Changed
                  form={where}
                  before={before}
                  after={plain}
                  at={steps.at}
                  count={steps.count}
                  onGo={steps.go}
                  onPoint={setPointedAt}
                />
              }
              under={(["save", "submit"] as const).map(
                (moment) =>
                  judgement[moment].outcome === "blocked" && (
                    <Ways
                      key={`${moment}-${steps.at}`}
                      form={where}
                      request={plain}
                      moment={moment}
                      onUse={(changes) => {
                        setValues(changes as Record<string, Entered>);
                        const [first] = Object.keys(changes);
                        // On to what came of it: the field that was changed.
                        if (first) requestAnimationFrame(() => goTo(first));
                      }}
                    />
                  ),
              )}
            />
            {keeping && (
              <KeepCase
                form={bench}
                request={plain}
                judgement={judgement}
                open={keeping}
                onOpenChange={(open) => {
                  setKeeping(open);
                  // Back to where one was trying.
                  if (!open && within)
                    focusSoon(() => controlOf(within, sheet.current ?? document));
                }}
              />
            )}
          </>
        )}
      </section>
    </Page>
  );
}

/** What starting values fill of a new record where the try leaves it to them: by its own day. */
function begunWith(
  judgement: Judgement | undefined,
  { entries, circumstances }: BenchInput,
  form: FormView,
): Values {
  if (circumstances.event === "update") return {};
  // Until the first answer is there, what a record of today begins with.
  if (!judgement) return circumstances.asOf || circumstances.release ? {} : form.sheet.starting;
  const filled = Object.entries(judgement.save.fields).filter(
    ([key, state]) => !(key in entries.values) && !state.derived && !state.read_only && state.value,
  );
  return Object.fromEntries(filled.map(([key, state]) => [key, state.value as Entered]));
}

/** The values of a starter that are its own: what every new record starts with is left to that. */
function besides(values: Values, starting: Values): Values {
  const own = Object.entries(values).filter(
    ([key, value]) => JSON.stringify(value) !== JSON.stringify(starting[key] ?? null),
  );
  return Object.fromEntries(own);
}

/** The field in whose row something stands. */
function fieldOf(target: EventTarget | null) {
  const row = target instanceof Element ? target.closest<HTMLElement>("[data-field]") : null;
  return row?.dataset.field ?? null;
}

/** Two fields to begin a map with: those that a rule holds against each other, if there are any. */
function firstTwo({ ordered, mapped, held }: BenchForm, at: string | null): [string, string] {
  const near = held.find((keys) => keys.includes(at ?? "")) ?? held[0] ?? [];
  const [first, second] = [...new Set([at ?? "", ...near, ...ordered, ...mapped])].filter((key) =>
    mapped.includes(key),
  );
  return [first ?? "", second ?? ""];
}

/** Keys that work wherever the cursor stands on the bench. */
function useBenchKeys(acts: Record<string, () => void>) {
  const latest = useRef(acts);
  latest.current = acts;
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const held = `${event.ctrlKey || event.metaKey ? "ctrl+" : ""}${event.altKey ? "alt+" : ""}`;
      const act = latest.current[`${held}${event.key.toLowerCase()}`];
      const elsewhere =
        event.target instanceof Element &&
        event.target.closest("[role=dialog], [role=listbox], [role=menu]");
      if (!act || elsewhere) return;
      event.preventDefault();
      act();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
