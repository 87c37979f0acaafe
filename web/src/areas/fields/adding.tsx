// Fields on their way to the server: who adds several goes on typing, and what is refused comes back.
import { useEffect, useRef, useState } from "react";
import { Button } from "../../ui/button";
import { keep, useKept } from "../../ui/kept";
import { useNotify } from "../../ui/notices";
import { ownerName } from "../../ui/owner";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { Field } from "./field-draft";
import { useStoreField } from "./queries";

const t = words("fields");

export type Added = { field: Field; needed: boolean };
type Refusal = Added & { says: string };
/** What is kept of a field while it is written. */
export type FieldDraft = Added & { revision: number | null };

/** Where a new field is kept while it is written. */
export const draftOf = (formKey: string) => `field:${formKey}:new`;

const refusedOf = (formKey: string) => `fields-refused:${formKey}`;

/** Add fields in the background, one after the other; those refused are kept until corrected. */
export function useAdding(form: FormView, open: string | null, reopen: () => void) {
  const store = useStoreField(form.key, () => undefined);
  const refused = useKept<Refusal[]>(refusedOf(form.key), []);
  const notify = useNotify();
  const openNow = useRef(open);
  openNow.current = open;
  const here = useRef(false);
  useEffect(() => {
    here.current = true;
    return () => {
      here.current = false;
    };
  }, []);
  /** Why the one that is open again was refused. */
  const [trouble, setTrouble] = useState<Error | null>(null);
  async function add({ field, needed }: Added) {
    const owner = ownerName();
    setTrouble(null);
    try {
      const stored = await store.mutateAsync({ field, revision: null, anyway: false, needed });
      notify({ text: t("label_was_added", { label: stored.field.label }) });
    } catch (error) {
      if (ownerName() !== owner) return; // who typed it has left, and nothing is kept of it
      const problem = error instanceof Error ? error : new Error(String(error));
      const refusal = { field, needed, says: problem.message };
      if (!here.current) {
        // Told where they are now, and shown again when they come back to the fields.
        keep(refusedOf(form.key), [...refused.value, refusal]);
        notify({
          text: t("label_is_not_added_yet_message", {
            label: field.label,
            message: problem.message,
          }),
        });
      } else if (openNow.current !== "new") {
        // Nothing else was begun meanwhile: it opens again as it was, with what is to be corrected.
        keep<FieldDraft>(draftOf(form.key), { field, needed, revision: null });
        setTrouble(problem);
        reopen();
      } else refused.change((before) => [...before, refusal]);
    }
  }
  function retry(place: number) {
    const one = refused.value[place];
    if (!one) return;
    keep<FieldDraft>(draftOf(form.key), { field: one.field, needed: one.needed, revision: null });
    const rest = refused.value.filter((_, at) => at !== place);
    if (rest.length > 0) refused.change(rest);
    else refused.forget([]);
    reopen();
  }
  return { add, retry, refused: refused.value, trouble, settle: () => setTrouble(null) };
}

type Props = { refused: readonly Refusal[]; busy: boolean; onRetry: (place: number) => void };

export function RefusedFields({ refused, busy, onRetry }: Props) {
  if (refused.length === 0) return null;
  return (
    <ul role="alert" className="mb-3 border-l-4 border-madder bg-leaf px-4 py-2">
      {refused.map(({ field, says }, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two may be alike, and each stays in its place
        <li key={place} className="flex items-baseline gap-3 py-0.5">
          <span className="grow">
            {t("field_is_not_added_yet", {
              label: field.label || t("a_field_without_a_label"),
              says,
            })}
          </span>
          <Button
            busy={busy}
            title={busy ? t("add_or_close_the_one_that_is") : t("open_it_again")}
            onClick={() => onRetry(place)}
          >
            {t("correct_it")}
          </Button>
        </li>
      ))}
    </ul>
  );
}
