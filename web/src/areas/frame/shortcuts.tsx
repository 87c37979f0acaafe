import { useState } from "react";
import { Tick } from "../../ui/inputs";
import { singleKeysOn, switchSingleKeys } from "../../ui/keys";
import { Sheet } from "../../ui/sheet";

const KEYS: [string, string][] = [
  ["?", "show these shortcuts"],
  ["Ctrl + K", "go to any form, field, rule or message, or do something"],
  ["Ctrl + Z, Ctrl + Y", "take back your last change to a form, or make it again"],
  ["n", "among the rules or the fields: begin a new one"],
  ["Arrow keys", "in the register: from part to part of a row, and from row to row"],
  ["Space or +", "on a mark: one step harder"],
  ["−", "on a mark: one step milder"],
  ["0, 1, 2, 3", "on a mark: nothing, note, warn, block"],
  ["F2", "in a condition: the formula in the place of the sentence, and back"],
  ["Ctrl + Space", "in a formula: the names and functions that fit"],
  ["Alt + arrow up or down", "on the handle of a field or a rule: move it"],
  ["Alt + arrow down", "in a day: open the calendar"],
  [
    "Ctrl + Enter",
    "store what is open: the rule, the field, the record; on the bench: keep a case",
  ],
  ["F8", "on the bench: flip the answer you are in, or changed last, back and forth"],
  ["F9", "on the bench: draw where the field you are in passes, or put that away"],
  ["Alt + , and Alt + .", "on the bench: one step back, one step forward"],
  ["j, k", "among the records to approve: the next one, the one before"],
  ["x, a, b", "there: choose, approve, send back"],
  ["Escape", "close what is open; what was typed stays"],
];

export function Shortcuts(props: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Sheet title="Keyboard shortcuts" {...props}>
      <SingleKeys />
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded-xs border border-edge bg-leaf px-2 py-0.5 font-mono text-sm">
                {key}
              </kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}

/** Whether n and ? do something by themselves; all they do is in Ctrl + K too. */
function SingleKeys() {
  const [on, setOn] = useState(singleKeysOn);
  return (
    <Tick
      checked={on}
      onChange={(next) => {
        setOn(next);
        switchSingleKeys(next);
      }}
    >
      n and ? do something by themselves; without them, use Ctrl + K
    </Tick>
  );
}
