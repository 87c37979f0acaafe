// Saying why a finding is as it should be.
import { type FormEvent, useState } from "react";
import { Button } from "../../ui/button";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { type Finding, useAside } from "./queries";

const t = words("findings");

const SHORTEST = 3; // characters

type Props = {
  form: FormView;
  finding: Finding;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

export function AsideSheet({ form, finding, open, onOpenChange }: Props) {
  const [reason, setReason] = useState("");
  const aside = useAside(form.key, form.revision);
  const complete = reason.trim().length >= SHORTEST;
  function submit(event: FormEvent) {
    event.preventDefault();
    if (!complete || aside.isPending) return;
    aside.mutate(
      { fingerprint: finding.fingerprint, reason },
      { onSuccess: () => onOpenChange(false) },
    );
  }
  return (
    <Sheet title={t("set_it_aside")} open={open} onOpenChange={onOpenChange}>
      <form onSubmit={submit}>
        <p>{finding.says}</p>
        <label className="mt-3 block">
          {t("why_it_is_as_it_should_be")}
          <textarea
            className="line-input mt-1 block w-full"
            rows={3}
            spellCheck
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
        </label>
        <p className="mt-1 text-sm text-muted">{t("it_comes_back_as_soon_as_one")}</p>
        <Trouble error={aside.error} />
        <Button look="solid" type="submit" className="mt-3" busy={!complete || aside.isPending}>
          {t("set_it_aside")}
        </Button>
      </form>
    </Sheet>
  );
}
