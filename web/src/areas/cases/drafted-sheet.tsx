// Cases drafted by the machine, each with its reason; the steward chooses which to keep.
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Facet, LEVEL_COLOUR } from "../../ui/facet";
import { Tick } from "../../ui/inputs";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import type { FormView } from "../form/form";
import { levelOf, OUTCOME_WORDS } from "../form/outcomes";
import { type Technique, useDrafted, useKeepSeveral } from "./queries";

const TECHNIQUES: [Technique, string, string][] = [
  ["both", "Both ways", "every rule seen violated, and seen met"],
  ["boundary", "Bounds", "the values on and beside each bound"],
  ["blank", "Blank", "what every new record starts with"],
  ["choice", "Each choice", "every answer at least once"],
  ["pairs", "Pairs", "every two answers of two governing fields together"],
  ["parts", "Parts", "each part of a condition shown to matter alone"],
];

type Props = { form: FormView; open: boolean; onOpenChange: (open: boolean) => void };

export function DraftedSheet({ form, open, onOpenChange }: Props) {
  const [technique, setTechnique] = useState<Technique>("both");
  const [values, setValues] = useState<2 | 3>(2);
  return (
    <Sheet title="Draft cases" wide open={open} onOpenChange={onOpenChange}>
      <fieldset className="grid grid-cols-2 gap-x-6 gap-y-0.5 border-b border-hairline pb-3 lg:grid-cols-3">
        <legend className="sr-only">Technique</legend>
        {TECHNIQUES.map(([key, name, what]) => (
          <label key={key} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="technique"
              className="size-4 translate-y-0.5 accent-thistle"
              checked={technique === key}
              onChange={() => setTechnique(key)}
            />
            <span>
              {name} <span className="block text-sm text-muted">{what}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {technique === "boundary" && (
        <div className="pt-2">
          <Tick checked={values === 3} onChange={(three) => setValues(three ? 3 : 2)}>
            three values at each bound (one step below, on it, one step above) instead of two
          </Tick>
        </div>
      )}
      <Found
        key={`${technique}-${values}`}
        form={form}
        technique={technique}
        values={values}
        onDone={() => onOpenChange(false)}
      />
    </Sheet>
  );
}

type FoundProps = {
  form: FormView;
  technique: Technique;
  values: 2 | 3;
  onDone: () => void;
};

function Found({ form, technique, values, onDone }: FoundProps) {
  const drafted = useDrafted(form.key, technique, values);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const [suite, setSuite] = useState(TECHNIQUES.find(([key]) => key === technique)?.[1] ?? "");
  const keep = useKeepSeveral(form.key);
  const notify = useNotify();
  if (drafted.error) return <Trouble error={drafted.error} />;
  if (!drafted.data) return <p className="py-4 text-muted">Searching for cases…</p>;
  const chosen = drafted.data.filter((_, place) => picked.has(place));
  if (drafted.data.length === 0)
    return (
      <p className="py-4 text-muted">
        Nothing to add: these cases exist already, or no record can show it.
      </p>
    );
  const all = picked.size === drafted.data.length;
  return (
    <>
      <div className="flex items-center gap-3 py-2">
        <Tick
          checked={all}
          onChange={(every) =>
            setPicked(every ? new Set(drafted.data.map((_, place) => place)) : new Set())
          }
        >
          all {drafted.data.length}
        </Tick>
        <span className="text-muted">Choose the cases to add. Each expects what happens now.</span>
      </div>
      <ul className="max-h-[30vh] overflow-auto border-y border-hairline">
        {drafted.data.map((one, place) => (
          <Draft
            key={`${one.case.name} ${JSON.stringify(one.case.values)}`}
            form={form}
            drafted={one}
            chosen={picked.has(place)}
            onChoose={() => {
              const next = new Set(picked);
              if (!next.delete(place)) next.add(place);
              setPicked(next);
            }}
          />
        ))}
      </ul>
      <Trouble error={keep.error} />
      <div className="mt-3 flex items-end gap-3">
        <label>
          <span className="block text-sm text-muted">Suite</span>
          <input
            className="line-input"
            value={suite}
            onChange={(event) => setSuite(event.target.value)}
          />
        </label>
        <Button
          look="solid"
          busy={chosen.length === 0 || keep.isPending}
          onClick={() =>
            keep.mutate(
              chosen.map((one) => ({ ...one.case, suite })),
              {
                onSuccess: () => {
                  const count = chosen.length;
                  notify({
                    text: `${counted(count, "case")} ${count === 1 ? "is" : "are"} kept.`,
                  });
                  onDone();
                },
              },
            )
          }
        >
          Keep {chosen.length} {chosen.length === 1 ? "case" : "cases"}
        </Button>
      </div>
    </>
  );
}

type DraftProps = {
  form: FormView;
  drafted: Schemas["DraftedCaseView"];
  chosen: boolean;
  onChoose: () => void;
};

function Draft({ form, drafted, chosen, onChoose }: DraftProps) {
  const navigate = useNavigate();
  const { name, why, expected } = drafted.case;
  return (
    <li className="flex items-start gap-3 border-b border-hairline py-1.5 last:border-b-0">
      <input
        type="checkbox"
        className="mt-1 size-4 shrink-0 accent-thistle"
        aria-label={name}
        checked={chosen}
        onChange={onChoose}
      />
      <span className="min-w-0 grow">
        {name}
        <span className="block text-sm text-muted">{why}</span>
      </span>
      {(["save", "submit"] as const).map((moment) => {
        const level = levelOf(expected[moment] ?? "clear");
        return (
          <span
            key={moment}
            className={`flex w-24 shrink-0 items-center gap-1 text-sm ${LEVEL_COLOUR[level]}`}
          >
            <Facet level={level} size={13} />
            <span className="sr-only">{moment === "save" ? "saving" : "submitting"}</span>
            {OUTCOME_WORDS[expected[moment] ?? "clear"].toLowerCase()}
          </span>
        );
      })}
      <button
        type="button"
        className="min-h-6 shrink-0 text-sm text-thistle hover:underline"
        onClick={() => navigate(`/forms/${form.key}/bench`, { state: { case: drafted.case } })}
      >
        on the bench
      </button>
    </li>
  );
}
