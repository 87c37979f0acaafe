// The desk: the forms that are filled in, and which records in each wait for whoever looks.

import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useMay, useVisitor } from "../../api/session";
import { Facet, type Level } from "../../ui/facet";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { listAddress } from "../records/asking";

const t = words("desk");

type Waiting = Schemas["DeskTasksView"];
const MOST = 1000;

/** Each count leads to the list of what it counts. */
const COUNTS: {
  head: string;
  level?: Level;
  says: string;
  count: (form: Waiting) => number;
  place: (me: string) => string;
}[] = [
  {
    head: t("begun_by_me"),
    says: t("not_submitted_yet"),
    count: ({ mine }) => mine,
    place: (me) => listAddress({ state: "in_progress", keeper: me }),
  },
  {
    head: t("on_hold"),
    level: "hold",
    says: t("with_something_missing"),
    count: ({ held }) => held,
    place: (me) => listAddress({ on_hold: "yes", keeper: me }),
  },
  {
    head: t("returned"),
    says: t("to_me_with_a_remark"),
    count: ({ returned }) => returned,
    place: (me) => listAddress({ state: "returned", keeper: me }),
  },
];

export function DeskPage() {
  const me = useVisitor().data?.name ?? "";
  const approves = useMay("approve");
  const desk = useQuery({
    queryKey: keys.waitingRecords(me),
    queryFn: () => answer(client.GET("/api/v1/desk")),
  });
  const mayApprove = approves || (desk.data?.some(({ to_approve }) => to_approve > 0) ?? false);
  return (
    <Page title={t("desk")} heading={null} className="mx-auto w-full max-w-5xl px-6 py-8">
      <h1 className="text-4xl">{t("desk")}</h1>
      {desk.data && (
        <p className="mt-2 font-serif text-lg text-muted">{summary(desk.data, mayApprove)}</p>
      )}
      <Trouble error={desk.error} />
      {desk.data && desk.data.length > 0 && (
        <table className="mt-6 w-full border-t border-b border-edge">
          <thead className="text-left text-muted">
            <tr className="border-b border-hairline align-bottom *:px-3 *:py-2 *:font-normal">
              <th scope="col">{t("form")}</th>
              {COUNTS.map(({ head, level }) => (
                <th key={head} scope="col" className="w-28 text-right whitespace-nowrap">
                  {level && <Facet level={level} size={13} />} {head}
                </th>
              ))}
              {mayApprove && (
                <th scope="col" className="w-28 text-right">
                  {t("to_approve")}
                </th>
              )}
              <th scope="col" className="w-40">
                <span className="sr-only">{t("fill_in")}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {desk.data.map((form) => (
              <Row key={form.key} form={form} me={me} mayApprove={mayApprove} />
            ))}
          </tbody>
        </table>
      )}
      {desk.data?.length === 0 && (
        <p className="mt-6 border-t border-hairline pt-6 text-muted">
          {t("no_form_is_in_force_yet_a")}
        </p>
      )}
    </Page>
  );
}

function Row({ form, me, mayApprove }: { form: Waiting; me: string; mayApprove: boolean }) {
  const at = `/forms/${form.key}`;
  return (
    <tr className="border-b border-hairline align-top *:px-3 *:py-2.5">
      <th scope="row" className="text-left font-normal">
        <Link to={`${at}/records`} className="font-serif text-lg text-thistle hover:underline">
          {form.name}
        </Link>
        <span className="block text-sm text-muted">{form.purpose}</span>
      </th>
      {COUNTS.map(({ head, says, count, place }) => (
        <td key={head} className="text-right">
          <Count
            count={count(form)}
            to={`${at}/${place(encodeURIComponent(me))}`}
            says={t("head_says_in_name", { head, says, name: form.name })}
          />
        </td>
      ))}
      {mayApprove && (
        <td className="text-right">
          <Count
            count={form.to_approve}
            to={`${at}/approval`}
            says={t("to_approve_in_name", { name: form.name })}
          />
        </td>
      )}
      <td className="text-right">
        {form.may_write && (
          <Link
            to={`${at}/records/new`}
            aria-label={t("new_record_of_name", { name: form.name })}
            className="inline-flex min-h-8 items-center gap-1.5 rounded-xs border border-edge bg-leaf px-2.5 whitespace-nowrap hover:bg-tint"
          >
            <Plus size={16} aria-hidden="true" /> {t("new_record")}
          </Link>
        )}
      </td>
    </tr>
  );
}

function Count({ count, to, says }: { count: number; to: string; says: string }) {
  if (count === 0) return <span className="text-muted">—</span>;
  const shown = count >= MOST ? t("1_000_or_more") : String(count);
  return (
    <Link to={to} aria-label={`${shown}: ${says}`} className="text-thistle underline">
      {shown}
    </Link>
  );
}

/** What waits, in a sentence. */
export function summary(forms: readonly Waiting[], mayApprove: boolean) {
  const sum = (count: (form: Waiting) => number) =>
    forms.reduce((before, form) => before + count(form), 0);
  const back = sum(({ returned }) => returned);
  const held = sum(({ held }) => held);
  const waiting = mayApprove ? sum(({ to_approve }) => to_approve) : 0;
  const said = [
    back > 0 && t("back_records_returned_to_you", { back, backShown: writtenNumber(back) }),
    held > 0 && t("held_records_on_hold", { held, heldShown: writtenNumber(held) }),
    waiting > 0 &&
      t("waiting_to_approve", { isWaiting: String(Boolean(waiting >= MOST)), waiting }),
  ].filter((one) => one !== false);
  return said.length > 0 ? `${said.join(", ")}.` : t("nothing_to_do");
}
