// The bench: the form on the left as a clerk meets it, saving and submitting on the right.
import { useRef, useState } from "react";
import { Page, Waiting } from "../../ui/page";
import { useSteady } from "../../ui/pointer";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { BenchForm } from "./bench-form";
import { BenchOutcome } from "./bench-outcome";
import { useBenchState } from "./bench-state";

const t = words("bench");

export function BenchPage() {
  const form = useForm().data;
  return form ? <Bench key={form.key} form={form} /> : null;
}

function Bench({ form }: { form: FormView }) {
  const state = useBenchState(form);
  const [pointedAt, setPointedAt] = useState<readonly string[]>([]);
  const [newest, setWithin] = useState<string | null>(null);
  const within = useSteady(newest);
  const [over, setOver] = useState<string | null>(null);
  const sheet = useRef<HTMLElement>(null);
  const { bench, request } = state;
  if (!bench || !request) return <Waiting>{t("loading_the_bench")}</Waiting>;
  const parts = { state, bench, request, sheet, within };
  return (
    <Page
      title={t("bench")}
      of={form.name}
      className="grid w-full grid-cols-1 gap-x-8 px-6 lg:grid-cols-[minmax(0,31rem)_minmax(0,1fr)]"
    >
      <BenchForm {...parts} onWithin={setWithin} onOver={setOver} pointedAt={pointedAt} />
      <BenchOutcome {...parts} over={over} onPoint={setPointedAt} />
    </Page>
  );
}
