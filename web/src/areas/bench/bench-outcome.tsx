// What happens on the bench: the verdicts on saving and submitting, and all that is asked about them.
import { BookmarkPlus } from "lucide-react";
import { type RefObject, useState } from "react";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { focusSoon } from "../../ui/focus";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { controlOf, goToField } from "../form-sheet/going";
import type { Judgement, Values } from "../form-sheet/judging";
import { useBenchKeys } from "./bench-keys";
import type { BenchState } from "./bench-state";
import { Changed } from "./changed";
import { CircumstancesBar } from "./circumstances-bar";
import { KeepCase } from "./keep-case";
import { FieldMap } from "./map";
import type { BenchForm, BenchRequest } from "./trying";
import { Verdicts } from "./verdicts";
import { Ways } from "./ways";

const t = words("bench");

type Props = {
  state: BenchState;
  bench: BenchForm;
  request: BenchRequest;
  sheet: RefObject<HTMLElement | null>;
  /** The field the cursor was in last, and the one the pointer is over. */
  within: string | null;
  over: string | null;
  onPoint: (fields: readonly string[]) => void;
};

export function BenchOutcome(props: Props) {
  const { state, bench, request, sheet, within } = props;
  const { form, judgement } = state;
  const mayEdit = useMay("edit_draft");
  const [mapped, setMapped] = useState<[string, string] | null>(null);
  const [keeping, setKeeping] = useState(false);
  useBenchKeys({ "ctrl+enter": () => judgement && mayEdit && setKeeping(true) });
  return (
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
      <CircumstancesBar
        form={bench}
        value={state.now.circumstances}
        onChange={state.setCircumstances}
      />
      <Trouble error={state.error} />
      {judgement && mapped && (
        <FieldMap
          form={bench}
          revision={form.revision}
          request={request}
          across={mapped[0]}
          up={mapped[1]}
          onFields={(across, up) => setMapped([across, up])}
          onChoose={state.enter}
        />
      )}
      {judgement && <Judged {...props} judgement={judgement} />}
      {judgement && keeping && (
        <KeepCase
          form={bench}
          request={request}
          judgement={judgement}
          open={keeping}
          onOpenChange={(open) => {
            setKeeping(open);
            // Back to where one was trying.
            if (!open && within) focusSoon(() => controlOf(within, sheet.current ?? document));
          }}
        />
      )}
    </section>
  );
}

/** The verdicts, with what the last step changed and how to get past a block. */
function Judged(props: Props & { judgement: Judgement }) {
  const { state, request, judgement, sheet } = props;
  const { form, steps } = state;
  const goTo = (key: string) => goToField(key, sheet.current ?? document);
  function switchRule(rule: string) {
    const { off } = state.now.circumstances;
    const others = off.filter((one) => one !== rule);
    state.setCircumstances({ off: off.includes(rule) ? others : [...off, rule] });
  }
  function repair(changes: Values) {
    state.fill(changes);
    const [first] = Object.keys(changes);
    // On to what came of it: the field that was changed.
    if (first) requestAnimationFrame(() => goTo(first));
  }
  return (
    <Verdicts
      form={props.bench}
      revision={form.revision}
      request={request}
      judgement={judgement}
      at={props.over ?? props.within}
      within={props.within}
      onPoint={props.onPoint}
      onGoTo={goTo}
      onSwitch={switchRule}
      beside={
        <Changed
          form={form}
          before={state.before}
          after={request}
          at={steps.at}
          count={steps.count}
          onGo={steps.go}
          onPoint={props.onPoint}
        />
      }
      under={(["save", "submit"] as const).map(
        (moment) =>
          judgement[moment].outcome === "blocked" && (
            <Ways
              key={`${moment}-${steps.at}`}
              form={form}
              request={request}
              moment={moment}
              onUse={(changes) => repair(changes as Values)}
            />
          ),
      )}
    />
  );
}

/** Two fields to begin a map with: those that a rule holds against each other, if there are any. */
function firstTwo({ ordered, mapped, held }: BenchForm, at: string | null): [string, string] {
  const near = held.find((keys) => keys.includes(at ?? "")) ?? held[0] ?? [];
  const [first, second] = [...new Set([at ?? "", ...near, ...ordered, ...mapped])].filter((key) =>
    mapped.includes(key),
  );
  return [first ?? "", second ?? ""];
}
