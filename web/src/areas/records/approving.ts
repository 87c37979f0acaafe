// Working through what was submitted: where one stands in the list, what is chosen, what is decided.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useKey } from "../../ui/keys";
import { useDecide } from "./queries";

type Summary = Schemas["RecordSummary"];
export type Approving = ReturnType<typeof useApproving>;

export function useApproving(formKey: string, mayApprove: boolean) {
  const [offset, setOffset] = useState(0);
  const waiting = useQuery({
    queryKey: keys.toApprove(formKey, offset),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/records", {
          params: {
            path: { form_key: formKey },
            query: { state: "submitted", order: "number", offset },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const records = waiting.data?.records ?? [];
  const [at, setAt] = useState<number | null>(null);
  const [chosen, setChosen] = useState<number[]>([]);
  const [sending, setSending] = useState(false);
  const list = useRef<HTMLUListElement>(null);
  const decide = useDecide(formKey);
  // Where one was decided on, the next one takes its place.
  const last = useRef(0);
  const found = records.findIndex(({ number }) => number === at);
  const here = found >= 0 ? found : Math.min(last.current, records.length - 1);
  last.current = Math.max(here, 0);
  const shown = records[here];
  const many = records.filter(({ number }) => chosen.includes(number));
  /** Those that are chosen, or the one that is shown. */
  const meant = many.length > 0 ? many : shown ? [shown] : [];

  const buttonOf = (number: number) =>
    list.current?.querySelector<HTMLButtonElement>(`[data-number="${number}"]`);
  function go(by: number) {
    const next = records[here + by];
    if (!next) return;
    setAt(next.number);
    buttonOf(next.number)?.focus({ preventScroll: false });
  }
  function toggle(number: number) {
    setChosen((before) =>
      before.includes(number) ? before.filter((one) => one !== number) : [...before, number],
    );
  }
  function decideOn(act: "approve" | "return", some: Summary[], remark = "", to?: string | null) {
    decide.mutate(
      { act, records: some.map(({ number, revision }) => ({ number, revision })), remark, to },
      {
        onSuccess: () => {
          setChosen([]);
          setSending(false);
        },
      },
    );
  }
  const idle = !decide.isPending && mayApprove;
  useKey("j", () => go(1));
  useKey("ArrowDown", () => go(1));
  useKey("k", () => go(-1));
  useKey("ArrowUp", () => go(-1));
  useKey("x", () => shown && toggle(shown.number));
  useKey("a", () => shown && decideOn("approve", meant), idle);
  useKey("b", () => setSending(true), idle);
  useEffect(() => {
    // After a decision the focus goes on to the record that took its place.
    if (decide.isSuccess && shown && document.activeElement === document.body)
      list.current?.querySelector<HTMLButtonElement>(`[data-number="${shown.number}"]`)?.focus();
  }, [decide.isSuccess, shown]);
  return {
    ...{ waiting, records, shown, many, meant, chosen, list, offset, decide, sending },
    ...{ toggle, setSending, decideOn, show: setAt },
    turnTo: (next: number) => {
      setOffset(next);
      setChosen([]);
    },
  };
}
