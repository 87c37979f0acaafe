// The bench: the form on the left as a clerk meets it, saving and submitting on the right.
import { RotateCcw } from "lucide-react";
import { useState } from "react";
import { Button } from "../../ui/button";
import { useKept } from "../../ui/kept";
import { Trouble } from "../../ui/trouble";
import { FormSheet } from "../form-sheet/form-sheet";
import {
  type Attempt,
  attemptWith,
  changesOf,
  useJudgement,
  useTouched,
} from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { Starters } from "../form-sheet/starters";
import { type FormView, useForm } from "../frame/form";
import { Verdicts } from "./verdicts";

export function BenchPage() {
  const form = useForm().data;
  return form ? <Bench key={form.key} form={form} /> : null;
}

function Bench({ form }: { form: FormView }) {
  const begun = attemptWith(form.sheet.starting);
  const tried = useKept<Attempt>(`try:${form.key}`, begun);
  const state = useTouched();
  const [pointedAt, setPointedAt] = useState<readonly string[]>([]);
  const judgement = useJudgement("bench", form.key, form.revision, tried.value, state.touched);
  return (
    <main
      id="main"
      className="grid w-full grid-cols-1 gap-x-8 px-6 lg:grid-cols-[minmax(0,31rem)_minmax(0,1fr)]"
    >
      <section aria-label="The form" className="py-4">
        <div className="flex items-center gap-3">
          <h2 className="mr-auto text-2xl">The form</h2>
          <span className="text-muted">Nothing is stored here.</span>
          <Button
            onClick={() => {
              tried.forget(begun);
              state.begin();
            }}
          >
            <RotateCcw size={15} aria-hidden="true" /> Start again
          </Button>
        </div>
        <Starters
          starters={form.sheet.starters}
          onBegin={(values) => tried.change(attemptWith(values))}
        />
        <PassingBar judgement={judgement.data} onPress={state.press} />
        <FormSheet
          fields={form.fields.map((view) => view.field)}
          sheet={form.sheet}
          attempt={tried.value}
          judgement={judgement.data}
          pressed={state.pressed}
          {...changesOf(tried.change, state.touch)}
          pointedAt={pointedAt}
        />
      </section>
      <section
        aria-label="What happens"
        className="border-hairline py-4 lg:sticky lg:top-0 lg:max-h-screen lg:overflow-auto lg:border-l lg:pl-8"
      >
        <Trouble error={judgement.error} />
        {judgement.data && (
          <Verdicts form={form} judgement={judgement.data} onPoint={setPointedAt} />
        )}
      </section>
    </main>
  );
}
