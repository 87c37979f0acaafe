// A value that a rule proposes: applied with one press, and taken off again with another.
import { Button } from "../../ui/button";
import { words } from "../../words";
import type { Proposal, SheetChanges } from "./judging";

const t = words("formSheet");

type Props = {
  proposal: Proposal;
  labelOf: (field: string) => string | undefined;
  onApply: SheetChanges["onApply"];
};

const STATES = {
  offered: t("proposed"),
  applied: t("applied"),
  overtaken: t("no_longer_proposed"),
};

export function ProposalOffer({ proposal, labelOf, onApply }: Props) {
  const offered = proposal.state === "offered";
  return (
    <div className="mt-1.5 flex items-center gap-3 border-l-2 border-plum pl-3">
      <p>
        <span className="text-plum">{STATES[proposal.state]}</span> {proposal.title}
        {Object.entries(proposal.shown).map(([field, value]) => (
          <span key={field} className="block text-sm">
            {labelOf(field) ?? field}: <span className="font-semibold">{value}</span>
          </span>
        ))}
        {proposal.explanation && (
          <span className="block text-sm text-muted">{proposal.explanation}</span>
        )}
      </p>
      <Button className="ml-auto shrink-0" onClick={() => onApply(proposal, offered)}>
        {offered ? t("apply") : t("take_it_off")}
      </Button>
    </div>
  );
}
