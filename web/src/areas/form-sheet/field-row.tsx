// One field: its label and mark, its control by its state, and everything that is told about it.
import { Lock } from "lucide-react";
import type { ReactNode } from "react";
import { Facet } from "../../ui/facet";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { typeOf } from "../field-types";
import { Typed } from "../field-types/typed-control";
import { FieldControl, ShownValue } from "./field-control";
import type {
  Demand,
  Entered,
  Entries,
  Field,
  FieldState,
  Judgement,
  Passed,
  Proposal,
  SheetChanges,
  Told,
} from "./judging";
import { Message } from "./message";
import { ProposalOffer } from "./proposal-offer";
import { ReasonAsked } from "./reason-asked";

const t = words("formSheet");

type Mark = NonNullable<FieldState["mark"]>;

type Props = SheetChanges & {
  id: string;
  field: Field;
  state: FieldState | undefined;
  /** A value that nobody enters, as it reads. */
  words: string | undefined;
  entries: Entries;
  twice: boolean;
  told: Told[];
  /** What the words and the state are of: another one, once something newer has been judged. */
  judged: Judgement | undefined;
  reasons: Demand[];
  /** Why warnings at it were passed. */
  passed: Passed[];
  proposals: Proposal[];
  readOnly: boolean;
  pointed: boolean;
  /** Whether it stands inside a compound, where labels are above. */
  inside: boolean;
  labelOf: (key: string) => string | undefined;
  below?: ReactNode;
};

const MARK_WORDS = {
  required: { entry: "", save: t("required_to_save"), submit: t("required_to_submit") },
  recommended: { entry: t("recommended"), save: t("recommended"), submit: t("recommended") },
};

function hardestOf(told: Told[]) {
  const said = told.map((one) => one.severity);
  return (["block", "warn", "note"] as const).find((severity) => said.includes(severity));
}

export function FieldRow(props: Props) {
  const { id, field, state, entries, told, inside, pointed } = props;
  const closed = state?.display === "disabled";
  const value = closed ? null : (entries.values[field.key] ?? null);
  const layout = inside
    ? "py-1"
    : "grid gap-x-4 border-b border-hairline py-2 @md:grid-cols-[11.5rem_minmax(0,1fr)]";
  const unasked = closed || state?.derived || state?.read_only || props.readOnly;
  const isGroup = typeOf(field).isGroup;
  return (
    <div
      data-field={field.key}
      className={`relative ${layout} ${pointed ? "bg-tint" : ""} ${closed ? "text-muted" : ""}`}
    >
      <div className={inside ? "" : "pt-1.5"}>
        {unasked || isGroup ? (
          <span id={`${id}-label`} className="block leading-snug">
            {field.label}
          </span>
        ) : (
          <label
            htmlFor={id}
            id={`${id}-label`}
            className={`block leading-snug ${field.label_shown ? "" : "sr-only"}`}
          >
            {field.label}
          </label>
        )}
        {state?.mark && !closed && !props.readOnly && (
          <MarkWords id={`${id}-mark`} mark={state.mark} />
        )}
      </div>
      <div>
        {unasked ? <Unentered {...props} closed={closed} /> : <Entry {...props} value={value} />}
        <p id={`${id}-hint`} className="text-sm text-muted empty:hidden">
          {props.readOnly ? "" : (state?.waiting ?? field.hint)}
        </p>
        <ul id={`${id}-messages`}>
          {told.map((one) => (
            <Message key={`${one.rule}-${one.text}`} told={one} />
          ))}
          {told.length === 0 && state?.confirmation && (
            <li className="mt-0.5 flex items-center gap-1.5 text-moss">
              <Facet level="clear" size={14} /> {state.confirmation}
            </li>
          )}
        </ul>
        {props.passed.map(({ text, by, at, rule }) => (
          <p key={`${by}-${at}-${rule}`} className="mt-0.5 text-sm text-muted">
            {t("by_by_at_text", {
              rule: String(Boolean(rule)),
              rule2: rule ?? "",
              by,
              at: writtenMoment(at),
              text,
            })}
          </p>
        ))}
        {props.reasons.map((demand) => (
          <ReasonAsked key={demand.rule} demand={demand} onReason={props.onReason} />
        ))}
        {props.proposals.map((proposal) => (
          <ProposalOffer
            key={proposal.rule}
            proposal={proposal}
            labelOf={props.labelOf}
            onApply={props.onApply}
          />
        ))}
      </div>
      {props.below && <div className="@md:col-span-2">{props.below}</div>}
    </div>
  );
}

function MarkWords({ id, mark }: { id: string; mark: Mark }) {
  return (
    <span id={id} className="flex items-center gap-1 text-sm text-muted">
      <Facet level={mark.kind === "required" ? "block" : "note"} size={11} />
      {MARK_WORDS[mark.kind][mark.moment]}
    </span>
  );
}

/** Nothing to type in: no box, no cursor, not in the order of tabs. */
function Unentered({ id, field, state, words, judged, closed }: Props & { closed: boolean }) {
  if (closed)
    return (
      <p id={id} className="min-h-8 pt-1.5 italic">
        {t("not_asked")}
      </p>
    );
  return (
    <p
      id={id}
      className={`flex min-h-8 items-center gap-1.5 ${field.emphasis ? "text-xl font-semibold" : ""}`}
    >
      <ShownValue field={field} words={words} judged={judged} />
      {state?.read_only && !state.derived && (
        <Lock size={13} className="text-muted" role="img" aria-label={t("locked")} />
      )}
    </p>
  );
}

function Entry(props: Props & { value: Entered }) {
  const { id, field, state, entries, twice, told, value, words, judged } = props;
  const { onChange, onTouch } = props;
  const again = `${field.key}.again`;
  const control = {
    field,
    described: `${state?.mark ? `${id}-mark ` : ""}${id}-hint ${id}-messages`,
    words,
    judged,
    hardest: hardestOf(told),
    readOnly: props.readOnly || Boolean(state?.waiting),
    onTouch: () => onTouch(field.key),
  };
  return (
    <>
      <FieldControl
        {...control}
        id={id}
        value={value}
        onChange={(next) => onChange(field.key, next)}
      />
      {twice && !control.readOnly && (
        <span className="mt-1.5 block">
          <label htmlFor={`${id}-again`} className="block text-sm text-muted">
            {t("label_once_more", { label: field.label })}
          </label>
          <Typed
            {...control}
            look={typeOf(field).look(field)}
            id={`${id}-again`}
            words={undefined}
            value={entries.values[again] ?? null}
            onTouch={() => onTouch(field.key, again)}
            onChange={(next) => onChange(again, next)}
          />
        </span>
      )}
    </>
  );
}
