// The change that would fix a finding, in words, before it is made.
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import type { FormView } from "../form/form";
import { type Finding, useFix } from "./queries";

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
    notify({ text: "Corrected. Undo stands at the head of the form." });
  });
  return (
    <Sheet title="Correct it" open={open} onOpenChange={onOpenChange}>
      <p className="text-muted">{finding.says}</p>
      <p className="mt-3">This would change:</p>
      <p className="mt-1 border-l-2 border-thistle pl-3">{finding.fix}</p>
      <Trouble error={fix.error} />
      <div className="mt-4 flex gap-3">
        <Button look="solid" busy={fix.isPending} onClick={() => fix.mutate(finding.fingerprint)}>
          Make this change
        </Button>
        <Button look="quiet" onClick={() => onOpenChange(false)}>
          Cancel
        </Button>
      </div>
    </Sheet>
  );
}
