import { QueryObserver } from "@tanstack/react-query";
import { beforeEach, expect, test, vi } from "vitest";
import { Queries, takeOver } from "./queries";

type Slips = { found: number; job: "running" | null };

const key = ["slips", "plant_accession"];
const shown: (Slips | undefined)[] = [];
let client: Queries;
let answers: ((slips: Slips) => void)[];

/** A page that shows the slips; what it asks is answered by hand. */
function open() {
  const queryFn = () => new Promise<Slips>((answer) => answers.push(answer));
  const page = new QueryObserver<Slips>(client, { queryKey: key, queryFn });
  page.subscribe(({ data }) => shown.push(data));
}

const seen = (slips: Slips) => vi.waitFor(() => expect(shown.at(-1)).toEqual(slips));

beforeEach(() => {
  client = new Queries();
  answers = [];
  shown.length = 0;
});

test("what was asked before an act, and comes after its answer, is not shown", async () => {
  open();
  const begun: Slips = { found: 0, job: "running" };
  await takeOver(key, begun, client);
  answers[0]?.({ found: 0, job: null });
  await seen(begun);
  await new Promise((later) => setTimeout(later));
  expect(client.getQueryData(key)).toEqual(begun);
});

test("an act may say what is to be shown by what was there", async () => {
  client.setQueryData<Slips>(key, { found: 3, job: null });
  await takeOver<Slips>(key, (before) => before && { ...before, job: "running" }, client);
  expect(client.getQueryData(key)).toEqual({ found: 3, job: "running" });
});

test("nothing is told of another one with a longer key", async () => {
  client.setQueryData([...key, 2], { found: 5, job: null });
  await takeOver<Slips>(key, { found: 1, job: null }, client);
  expect(client.getQueryData([...key, 2])).toEqual({ found: 5, job: null });
});

test("what an act made out of date is asked anew while its first answer is on its way", async () => {
  open();
  const asked = client.invalidateQueries({ queryKey: [key[0]] });
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  answers[0]?.({ found: 0, job: null });
  answers[1]?.({ found: 7, job: null });
  await asked;
  await seen({ found: 7, job: null });
});

test("what is out of date and not shown is asked once it is", async () => {
  client.setQueryData<Slips>(key, { found: 1, job: null });
  await client.invalidateQueries({ predicate: (query) => query.queryKey[0] === "slips" });
  expect(answers).toHaveLength(0);
  open();
  expect(answers).toHaveLength(1);
  answers[0]?.({ found: 2, job: null });
  await seen({ found: 2, job: null });
});
