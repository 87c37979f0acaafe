// Named sets of values that a new record can begin with.
import { Button } from "../../ui/button";
import { words } from "../../words";
import type { Sheet, Values } from "./judging";

const t = words("formSheet");

type Props = { starters: Sheet["starters"]; onBegin: (values: Values) => void };

export function Starters({ starters, onBegin }: Props) {
  if (starters.length === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2">
      <span className="text-muted">{t("begin_with")}</span>
      {starters.map((starter) => (
        <Button key={starter.key} look="quiet" onClick={() => onBegin(starter.values)}>
          {starter.label}
        </Button>
      ))}
    </p>
  );
}
