// One rule in the register: its sentence, its three moments, its switch.
import { Switch } from "radix-ui";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Sentence } from "../../ui/sentence";
import { ProblemList } from "../../ui/trouble";
import type { FormView } from "../frame/form-frame";
import { countingWords } from "./counting";
import { isCheck, MOMENTS } from "./draft";
import { useAdjustRule } from "./queries";
import { SeverityMark } from "./severity-mark";

type Props = {
  form: FormView;
  view: Schemas["RuleView"];
  row: number;
  onOpen: (() => void) | null;
};

export function RuleRow({ form, view, row, onOpen }: Props) {
  const { rule, sentence, problems } = view;
  const adjust = useAdjustRule(form.key);
  const mayEdit = useMay("edit_draft");
  const counting = countingWords(rule);
  return (
    <tr
      className={`border-b border-hairline align-top *:px-2 *:py-2 ${rule.on ? "" : "opacity-70"}`}
    >
      <td>
        <p className="text-sm text-muted">
          {rule.name}
          {counting && <span className="text-plum"> — counts {counting}</span>}
        </p>
        <p className="text-[1.05rem]">
          <Sentence segments={sentence} />
          {onOpen && (
            <button
              type="button"
              className="ml-2 rounded-xs px-1.5 text-[0.95rem] text-thistle hover:bg-tint"
              onClick={onOpen}
              aria-label={`Rewrite “${rule.name}”`}
            >
              rewrite
            </button>
          )}
        </p>
        {problems.length > 0 && (
          <div className="text-madder">
            Unfinished, so it has no effect:
            <ProblemList items={problems} />
          </div>
        )}
      </td>
      {MOMENTS.map((moment) => (
        <td key={moment}>
          {isCheck(rule) && (
            <SeverityMark
              rule={rule.name}
              moment={moment}
              row={row}
              severity={rule.severity[moment]}
              holds={rule.hold}
              disabled={!mayEdit}
              onStep={(next) => adjust.mutate({ key: rule.key, severity: { [moment]: next } })}
            />
          )}
        </td>
      ))}
      <td>
        <Switch.Root
          checked={rule.on}
          disabled={!mayEdit}
          onCheckedChange={(on) => adjust.mutate({ key: rule.key, on })}
          aria-label={`In use (${rule.name})`}
          className="mt-1 h-6 w-11 rounded-xs border border-edge bg-leaf data-[state=checked]:bg-tint"
        >
          <Switch.Thumb className="block size-4 translate-x-1 rotate-45 scale-75 bg-edge transition-transform motion-reduce:transition-none data-[state=checked]:translate-x-5 data-[state=checked]:bg-thistle" />
        </Switch.Root>
      </td>
    </tr>
  );
}
