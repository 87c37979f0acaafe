// Keeping a try as a case: its name, and what should happen.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import type { Judgement } from "../form-sheet/judging";
import { OUTCOME_LEVEL, OUTCOME_WORDS, OUTCOMES, type Outcome } from "./outcomes";
import type { BenchForm, Trying } from "./trying";

type Props = {
  form: BenchForm;
  attempt: Trying;
  judgement: Judgement;
  suites: string[];
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

export function KeepCase(props: Props) {
  return (
    <Sheet title="Keep this try as a case" open={props.open} onOpenChange={props.onOpenChange}>
      <KeepForm {...props} />
    </Sheet>
  );
}

/** A name that says what the try shows. */
function nameFor(form: BenchForm, { save, submit }: Judgement) {
  const broken = submit.results.find((result) => result.status === "broken");
  const rule = form.rules.find((one) => one.key === broken?.rule);
  if (rule) return rule.name;
  const clear = save.outcome === "clear" && submit.outcome === "clear";
  return clear ? "A record that goes through" : "";
}

function KeepForm({ form, attempt, judgement, suites, onOpenChange }: Props) {
  const [name, setName] = useState(() => nameFor(form, judgement));
  const [suite, setSuite] = useState("");
  const [why, setWhy] = useState("");
  const [said, setSaid] = useState<{ save: Outcome; submit: Outcome }>({
    save: judgement.save.outcome,
    submit: judgement.submit.outcome,
  });
  const queries = useQueryClient();
  const notify = useNotify();
  const otherwise =
    said.save !== judgement.save.outcome || said.submit !== judgement.submit.outcome;
  const broken = speaking(judgement);
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/forms/{form_key}/cases", {
          params: { path: { form_key: form.key } },
          body: {
            name,
            suite,
            why,
            attempt,
            expected: otherwise ? { ...said, broken: broken.map((one) => one.rule) } : null,
          },
        }),
      ),
    onSuccess: () => {
      for (const part of ["cases", "case-counts", "history"])
        queries.invalidateQueries({ queryKey: [part, form.key] });
      notify({ text: `Kept: ${name}.` });
      onOpenChange(false);
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    if (name.trim()) keep.mutate();
  }
  return (
    <form onSubmit={submit}>
      <label className="block">
        <span className="text-muted">Name</span>
        <input
          className="line-input mt-1 block w-full"
          required
          value={name}
          spellCheck
          // biome-ignore lint/a11y/noAutofocus: the name is what the dialog is for
          autoFocus
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <div className="mt-3 grid grid-cols-2 gap-x-6">
        {(["save", "submit"] as const).map((moment) => (
          <label key={moment} className="flex items-center gap-2">
            {moment === "save" ? "Saving should be" : "Submitting should be"}
            <select
              className="line-input"
              value={said[moment]}
              onChange={(event) => setSaid({ ...said, [moment]: event.target.value as Outcome })}
            >
              {OUTCOMES.map((one) => (
                <option key={one} value={one}>
                  {OUTCOME_WORDS[one].toLowerCase()}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      <p className="mt-3 text-muted">
        {broken.length === 0 ? "No rule should be broken." : "These rules should be broken:"}
      </p>
      <ul>
        {broken.map((one) => (
          <li key={one.rule} className="flex items-center gap-1.5">
            <Facet level={OUTCOME_LEVEL[OUTCOME_OF[one.severity]]} size={14} />
            {form.rules.find((rule) => rule.key === one.rule)?.name}
          </li>
        ))}
      </ul>
      {otherwise && (
        <p className="mt-2 text-ochre">
          That is not what happens now: the case will disagree until the rules are mended.
        </p>
      )}
      <div className="mt-3 grid grid-cols-2 gap-x-6">
        <label className="block">
          <span className="text-muted">Suite (may stay blank)</span>
          <input
            className="line-input mt-1 block w-full"
            list="suites"
            value={suite}
            onChange={(event) => setSuite(event.target.value)}
          />
          <datalist id="suites">
            {suites.map((one) => (
              <option key={one} value={one} />
            ))}
          </datalist>
        </label>
        <label className="block">
          <span className="text-muted">Why it is kept (may stay blank)</span>
          <input
            className="line-input mt-1 block w-full"
            value={why}
            spellCheck
            onChange={(event) => setWhy(event.target.value)}
          />
        </label>
      </div>
      <div className="mt-3">
        <Trouble error={keep.error} />
      </div>
      <div className="mt-4 flex items-center gap-3">
        <Button look="solid" type="submit" disabled={keep.isPending}>
          Keep the case
        </Button>
        <Link to={`/forms/${form.key}/cases`} className="ml-auto text-thistle hover:underline">
          to the cases
        </Link>
      </div>
    </form>
  );
}

const OUTCOME_OF = { off: "clear", note: "noted", warn: "warned", block: "blocked" } as const;

/** The rules that are broken and speak on saving or submitting, as hard as they do on submitting. */
function speaking({ save, submit }: Judgement) {
  const found = new Map<string, Schemas["RuleResult"]>();
  for (const result of [...save.results, ...submit.results])
    if (result.status === "broken") found.set(result.rule, result);
  return [...found.values()];
}
