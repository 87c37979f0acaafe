// What the screens make of the server's answers: the client is the real one, the network is not.
import { afterEach, describe, expect, it, vi } from "vitest";
import { setOwner } from "../ui/owner";
import { arrived, onSessionEnded } from "./again";
import { answer, client, keepToken, mayRetry, Refused } from "./client";
import { isUnderWay, type Job, whileUnderWay } from "./jobs";

const calls: Request[] = [];

function answering(status: number, body: unknown, type = "application/json") {
  vi.stubGlobal("fetch", async (request: Request) => {
    calls.push(request);
    const text = body === null ? null : JSON.stringify(body);
    return new Response(text, { status, headers: { "Content-Type": type } });
  });
}

afterEach(() => {
  vi.unstubAllGlobals();
  calls.length = 0;
});

// Node wants whole addresses where a browser completes them.
const at = { baseUrl: "http://127.0.0.1" };
const forms = () => answer(client.GET("/api/v1/forms", at));

describe("an answer", () => {
  it("is its data", async () => {
    answering(200, [{ key: "loan_out" }]);
    expect(await forms()).toEqual([{ key: "loan_out" }]);
  });
  it("is thrown with the server's own words where it is a refusal", async () => {
    const problem = { type: "urn:x", title: "No.", status: 409, detail: "Try.", errors: [] };
    answering(409, problem, "application/problem+json");
    const refused = await forms().catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Refused);
    expect((refused as Refused).problem).toEqual(problem);
  });
  it("says something kind where there are no words", async () => {
    answering(502, "gateway");
    const refused = (await forms().catch((error: unknown) => error)) as Refused;
    expect(refused.problem.title).toBe("The server could not answer.");
    expect(refused.problem.status).toBe(502);
  });
  it("that changes something carries the page's token", async () => {
    answering(204, null);
    keepToken("token-1");
    await answer(client.DELETE("/api/v1/session", at));
    await forms().catch(() => undefined);
    expect(calls.map((call) => call.headers.get("X-CSRFToken"))).toEqual(["token-1", null]);
  });
  it("is asked for again where the connection was lost, and not where it was refused", () => {
    const problem = { type: "", title: "", status: 422, detail: "", errors: [] };
    expect(mayRetry(3, new TypeError("network"))).toBe(true);
    expect(mayRetry(0, new Refused(problem))).toBe(false);
    expect(mayRetry(100, new TypeError("network"))).toBe(false);
  });
});

describe("a call after the session has ended", () => {
  const gone = { type: "", title: "Gone.", status: 401, detail: "", errors: [] };
  /** The network answers 401 until somebody has signed in; told of it, `back` comes. */
  function ending(back: () => void) {
    let ended = true;
    vi.stubGlobal("fetch", async (request: Request) => {
      calls.push(request);
      const [status, body] = ended ? [401, gone] : [200, []];
      return new Response(JSON.stringify(body), {
        status,
        headers: { "Content-Type": "application/problem+json" },
      });
    });
    onSessionEnded(() => {
      ended = false;
      keepToken("token-2");
      back();
    });
  }
  const store = () =>
    answer(client.POST("/api/v1/session/password", { ...at, body: { old: "1", password: "2" } }));
  afterEach(() => setOwner(""));

  it("waits until the same person is back, and is made again as it was", async () => {
    setOwner("clerk");
    keepToken("token-1");
    ending(() => arrived(true));
    expect(await store()).toEqual([]);
    expect(calls.map((call) => call.headers.get("X-CSRFToken"))).toEqual(["token-1", "token-2"]);
    expect(await calls[1]?.json()).toEqual({ old: "1", password: "2" });
  });
  it("is refused where somebody else has come, or nobody was there", async () => {
    setOwner("clerk");
    ending(() => arrived(false));
    await expect(store()).rejects.toBeInstanceOf(Refused);
    setOwner("");
    ending(() => expect.unreachable());
    await expect(store()).rejects.toBeInstanceOf(Refused);
    expect(calls).toHaveLength(2);
  });
});

it("asks again after a job only while it is under way", () => {
  const job = (state: Job["state"]) => ({ state }) as Job;
  expect((["waiting", "running"] as const).map((one) => isUnderWay(job(one)))).toEqual([
    true,
    true,
  ]);
  for (const ended of ["done", "stopped", "failed"] as const)
    expect(whileUnderWay(job(ended))).toBe(false);
  expect(whileUnderWay(job("running"))).toBeGreaterThan(0);
  expect(isUnderWay(null)).toBe(false);
});
