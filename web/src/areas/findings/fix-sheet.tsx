// The change that would fix a finding, in words, before it is made.
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { type Finding, useFix } from "./queries";

const t = words("findings");

type Props = {
  form: FormView;
  finding: Finding;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

export function FixSheet({ form, finding, open, onOpenChange }: Props) {
  const notify = useNotify();
  const fix = useFix(form.key, () => {
    onOpenChange(false);
    notify({ text: t("corrected_undo_stands_at_the_head_of") });
  });
  return (
    <Sheet title={t("correct_it_2")} open={open} onOpenChange={onOpenChange}>
      <p className="text-muted">{finding.says}</p>
      <p className="mt-3">{t("this_would_change")}</p>
      <p className="mt-1 border-l-2 border-thistle pl-3">{finding.fix}</p>
      <Trouble error={fix.error} />
      <div className="mt-4 flex gap-3">
        <Button look="solid" busy={fix.isPending} onClick={() => fix.mutate(finding.fingerprint)}>
          {t("make_this_change")}
        </Button>
        <Button look="quiet" onClick={() => onOpenChange(false)}>
          {t("cancel")}
        </Button>
      </div>
    </Sheet>
  );
}
