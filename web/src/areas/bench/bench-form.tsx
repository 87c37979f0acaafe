// The form on the bench, as a clerk meets it.
import { Repeat2, RotateCcw, Ruler } from "lucide-react";
import { type RefObject, useState } from "react";
import { Button } from "../../ui/button";
import { words } from "../../words";
import { FormSheet } from "../form-sheet/form-sheet";
import { changesOf, entriesWith, type Values } from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { Starters } from "../form-sheet/starters";
import { Band } from "./band";
import { useBenchKeys } from "./bench-keys";
import type { BenchState } from "./bench-state";
import { type BenchRequest, begunAnew, type BenchForm as Form } from "./trying";

const t = words("bench");

type Props = {
  state: BenchState;
  bench: Form;
  request: BenchRequest;
  sheet: RefObject<HTMLElement | null>;
  /** The field the cursor was in last. */
  within: string | null;
  onWithin: (field: string | null) => void;
  /** The field the pointer is over. */
  onOver: (field: string | null) => void;
  pointedAt: readonly string[];
};

export function BenchForm({ state, bench, request, sheet, within, ...rest }: Props) {
  const { now, change, touched, steps, shown, judgement } = state;
  const [banded, setBanded] = useState<string | null>(null);
  const flip = () => state.flip(fieldOf(document.activeElement));
  useBenchKeys({
    f8: flip,
    f9: () => within && setBanded(banded === within ? null : within),
    "alt+,": () => steps.go(-1),
    "alt+.": () => steps.go(1),
  });
  return (
    <section
      ref={sheet}
      aria-label={t("the_form")}
      className="py-4"
      onFocus={(event) => rest.onWithin(fieldOf(event.target))}
      onMouseOver={(event) => rest.onOver(fieldOf(event.target))}
      onMouseLeave={() => rest.onOver(null)}
      onBlur={steps.settle}
    >
      <Head
        onFlip={flip}
        onBegin={() => {
          steps.begin(begunAnew(now));
          touched.begin();
        }}
      />
      <Starters
        starters={bench.sheet.starters}
        onBegin={(values) =>
          change((one) => ({
            ...begunAnew(one),
            entries: entriesWith(besides(values, bench.sheet.starting)),
          }))
        }
      />
      <PassingBar judgement={judgement} fields={bench.fields} onPress={touched.press} />
      <FormSheet
        fields={bench.fields}
        sheet={bench.sheet}
        entries={{ ...now.entries, values: shown }}
        judgement={judgement}
        pressed={touched.pressed}
        {...changesOf(state.changeEntries, touched.touch)}
        onChange={(key, value) =>
          change(
            (one) => ({
              ...one,
              entries: { ...one.entries, values: { ...one.entries.values, [key]: value } },
            }),
            key,
          )
        }
        pointedAt={rest.pointedAt}
        below={(field) => {
          if (!bench.ordered.includes(field.key)) return null;
          if (banded === field.key)
            return (
              <Band
                form={state.form}
                request={request}
                field={field.key}
                label={field.label}
                value={shown[field.key] ?? null}
                onChange={(value) => state.enter({ [field.key]: value })}
              />
            );
          if (within !== field.key) return null;
          return <BandButton label={field.label} onClick={() => setBanded(field.key)} />;
        }}
      />
    </section>
  );
}

function Head({ onFlip, onBegin }: { onFlip: () => void; onBegin: () => void }) {
  return (
    <div className="flex items-center gap-2">
      <h3 className="mr-auto text-2xl">{t("the_form")}</h3>
      <span className="text-sm text-muted">{t("nothing_is_stored_here")}</span>
      <Button look="quiet" title={t("flip_the_last_answer_back_and_forth")} onClick={onFlip}>
        <Repeat2 size={15} aria-hidden="true" /> {t("flip")}
      </Button>
      <Button onClick={onBegin}>
        <RotateCcw size={15} aria-hidden="true" /> {t("start_again")}
      </Button>
    </div>
  );
}

/** It lies over the row, so that nothing moves when a field is entered or left. */
function BandButton({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button
      type="button"
      title={t("draw_where_it_passes_f9")}
      aria-label={t("draw_where_label_passes_f9", { label })}
      className="absolute top-2.5 right-0 flex min-h-7 items-center gap-1 rounded-xs px-1 text-sm text-thistle hover:bg-tint"
      onClick={onClick}
    >
      <Ruler size={15} aria-hidden="true" /> F9
    </button>
  );
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
