// Other systems that are called when something becomes of a record, and what became of the calls.
import { type FormEvent, useState } from "react";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { Line, Tick } from "../../ui/inputs";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { OCCASIONS, occasionWords, stateWords } from "../messages/words";
import {
  type Call,
  type NewTarget,
  type Target,
  useCallAgain,
  useCalls,
  useChangeTarget,
  useMakeTarget,
  useReceived,
  useTargets,
} from "./call-queries";
import { ShownOnce } from "./shown-once";

const t = words("access");

export function CallsOut({ formKey }: { formKey: string }) {
  const targets = useTargets(formKey);
  const calls = useCalls(formKey);
  const [naming, setNaming] = useState(false);
  return (
    <section aria-label={t("webhooks")}>
      <div className="flex items-baseline gap-4">
        <p className="mr-auto max-w-3xl">{t("called_when_a_record_changes_signed_retried")}</p>
        {!naming && (
          <Button look="solid" onClick={() => setNaming(true)}>
            {t("add_webhook")}
          </Button>
        )}
      </div>
      {naming && <NameTarget formKey={formKey} onClose={() => setNaming(false)} />}
      <Trouble error={targets.error ?? calls.error} />
      {targets.data?.length === 0 && !naming && (
        <p className="mt-3 border-t border-hairline py-4 text-muted">
          {t("no_webhooks_yet_add_one_or_the")}
        </p>
      )}
      <ul className="mt-3">
        {targets.data?.map((target) => (
          <li key={target.id} className="border-t border-hairline py-2">
            <TargetRow formKey={formKey} target={target} made={madeOf(calls.data ?? [])} />
          </li>
        ))}
      </ul>
      {calls.data && targets.data && targets.data.length > 0 && (
        <CallList formKey={formKey} calls={calls.data} />
      )}
    </section>
  );
}

type NameProps = { formKey: string; onClose: () => void };
type Occasions = NewTarget["occasions"];

function NameTarget({ formKey, onClose }: NameProps) {
  const [name, setName] = useState("");
  const [address, setAddress] = useState("");
  const [occasions, setOccasions] = useState<Occasions>(["submitted"]);
  const make = useMakeTarget(formKey);
  function submit(event: FormEvent) {
    event.preventDefault();
    make.mutate({ name, address, occasions });
  }
  if (make.data)
    return (
      <ShownOnce
        what="secret"
        says={t("the_secret_with_which_calls_to_name", { name })}
        text={make.data.secret}
        onClose={onClose}
      />
    );
  return (
    <form
      aria-label={t("new_webhook")}
      onSubmit={submit}
      className="my-3 grid gap-4 border-l-4 border-thistle bg-leaf px-5 py-4 md:grid-cols-2"
    >
      <Line label={t("who_is_called")} value={name} onChange={setName} />
      <Line
        label={t("address_blank_the_built_in_receiver")}
        value={address}
        onChange={setAddress}
      />
      <fieldset className="flex flex-wrap gap-x-4 md:col-span-2">
        <legend className="float-left mr-4 text-muted">{t("when_a_record_has_been")}</legend>
        {OCCASIONS.map(({ value, label }) => (
          <Tick
            key={value}
            checked={occasions.includes(value as Occasions[number])}
            onChange={(take) =>
              setOccasions(
                take
                  ? [...occasions, value as Occasions[number]]
                  : occasions.filter((one) => one !== value),
              )
            }
          >
            {label}
          </Tick>
        ))}
      </fieldset>
      <div className="md:col-span-2">
        <Trouble error={make.error} />
        <div className="mt-2 flex gap-2">
          <Button look="solid" type="submit" busy={make.isPending}>
            {t("add_webhook_2")}
          </Button>
          <Button onClick={onClose}>{t("cancel")}</Button>
        </div>
      </div>
    </form>
  );
}

/** What changes with each call that is begun, and with each that has arrived. */
function madeOf(calls: readonly Call[]) {
  return calls.map(({ id, attempts, state }) => `${id} ${attempts} ${state}`).join(", ");
}

type TargetProps = { formKey: string; target: Target; made: string };

function TargetRow({ formKey, target, made }: TargetProps) {
  const change = useChangeTarget(formKey);
  const { id, name, enabled, fails } = target;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className={`min-w-0 grow ${enabled ? "" : "text-muted"}`}>
          <h3 className="text-lg">
            {name}{" "}
            {target.stand_in && <span className="text-base text-muted">{t("the_stand_in")}</span>}
          </h3>
          <p>
            {t("when_a_record_has_been_join", {
              join: target.occasions.map(occasionWords).join(" or "),
              notEnabled: String(Boolean(!enabled)),
            })}
          </p>
          <p className="font-mono text-sm break-all text-muted">{target.address}</p>
        </div>
        <Button
          look="quiet"
          busy={change.isPending}
          aria-label={enabled ? t("call_name_no_more", { name }) : t("call_name_again", { name })}
          onClick={() => change.mutate({ id, enabled: !enabled, fails })}
        >
          {enabled ? t("disable") : t("call_it_again")}
        </Button>
      </div>
      <Trouble error={change.error} />
      {target.stand_in && (
        <details className="mt-1">
          <summary className="cursor-pointer text-thistle">{t("what_it_has_received")}</summary>
          <Received formKey={formKey} id={id} made={made} />
          <p className="mt-2">
            {t("refusals_of_the_test_receiver", { fails })}{" "}
            <Button
              look="quiet"
              busy={change.isPending}
              onClick={() => change.mutate({ id, enabled, fails: fails > 0 ? 0 : 2 })}
            >
              {fails > 0 ? t("let_it_take_them") : t("let_it_refuse_the_next_two")}
            </Button>
          </p>
        </details>
      )}
    </>
  );
}

const SHOWN = 8;

type ReceivedProps = { formKey: string; id: number; made: string };

function Received({ formKey, id, made }: ReceivedProps) {
  const received = useReceived(formKey, id, made);
  return (
    <>
      <Trouble error={received.error} />
      {received.data?.length === 0 && <p className="text-muted">{t("nothing_yet")}</p>}
      <ul className="mt-1">
        {received.data?.slice(0, SHOWN).map((one) => (
          <li key={`${one.webhook_id} ${one.received_at}`} className="text-sm">
            {t("received_at_signature_fits_refused", {
              received_at: writtenMoment(one.received_at),
              taken: String(Boolean(one.taken)),
            })}
            <pre className="overflow-x-auto border border-hairline bg-leaf px-3 py-1 font-mono">
              {pretty(one.body)}
            </pre>
          </li>
        ))}
      </ul>
    </>
  );
}

function pretty(body: string) {
  try {
    return JSON.stringify(JSON.parse(body), null, 1);
  } catch {
    return body;
  }
}

const LEVELS = { waiting: "note", sent: "clear", failed: "warn" } as const;

function CallList({ formKey, calls }: { formKey: string; calls: readonly Call[] }) {
  const again = useCallAgain(formKey);
  return (
    <section aria-labelledby="calls-made" className="mt-6">
      <h3 id="calls-made" className="text-lg">
        {t("calls")}
      </h3>
      {calls.length === 0 && (
        <p className="border-t border-hairline py-3 text-muted">{t("none_was_to_be_made_yet")}</p>
      )}
      <Trouble error={again.error} />
      <ul className="mt-1">
        {calls.map((call) => (
          <li key={call.id} className="flex items-start gap-3 border-t border-hairline py-1.5">
            <span className="mt-1">
              <Facet level={LEVELS[call.state]} />
            </span>
            <details className="min-w-0 grow">
              <summary className="cursor-pointer">
                {t("state_record_number_was_occasion_to_receiver", {
                  state: stateWords(call.state),
                  number: call.number,
                  occasion: occasionWords(call.occasion),
                  receiver: call.receiver,
                })}
                <span className="text-sm text-muted">
                  {" "}
                  {t("call_standing", {
                    at: writtenMoment(call.sent_at ?? call.written_at),
                    answered: String(Boolean(call.answer_status)),
                    status: String(call.answer_status ?? ""),
                    again: String(Boolean(call.next_at)),
                    next: call.next_at ? writtenMoment(call.next_at) : "",
                  })}
                </span>
              </summary>
              <p className="font-mono text-sm text-muted">
                {t("webhook_id_webhook_id", { webhook_id: call.webhook_id })}
              </p>
              <pre className="overflow-x-auto border border-hairline bg-leaf px-3 py-1 font-mono text-sm">
                {pretty(call.body)}
              </pre>
              {call.answer && (
                <p className="text-sm">{t("it_answered_answer", { answer: call.answer })}</p>
              )}
            </details>
            {call.trouble && <span className="text-sm text-ochre">{call.trouble}</span>}
            <Button
              look="quiet"
              busy={again.isPending}
              aria-label={t("call_again_of_record_number_receiver", {
                number: call.number,
                receiver: call.receiver,
              })}
              onClick={() => again.mutate(call.id)}
            >
              {t("call_again")}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
