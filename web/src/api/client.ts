// The one way to the server. Every answer that is not a success is thrown as a Refused.
import createClient, { type Middleware } from "openapi-fetch";
import { words } from "../words";
import { signedInAgain } from "./again";
import { connection } from "./connection";
import type { components, paths } from "./schema";

const t = words("api");

export type Schemas = components["schemas"];
type Problem = Schemas["ProblemDetails"] & {
  judgement?: Schemas["VerdictsView"];
  revision?: number;
  current?: Record<string, unknown>;
};

export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

let token = "";
export function keepToken(next: string) {
  token = next;
}

const carryToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", token);
    return request;
  },
};

const NOT_SIGNED_IN = 401;
const isAboutSigningIn = (request: Request) => new URL(request.url).pathname === "/api/v1/session";

/** The answer; after a session has ended that of the same call, once one has signed in again. */
async function answered(request: Request): Promise<Response> {
  const again = request.clone();
  const response = await watched(request);
  if (response.status !== NOT_SIGNED_IN || isAboutSigningIn(request)) return response;
  if (!(await signedInAgain(request.signal))) return response;
  if (again.method !== "GET") again.headers.set("X-CSRFToken", token);
  return watched(again);
}

async function watched(request: Request): Promise<Response> {
  try {
    const response = await fetch(request);
    connection.report(true);
    return response;
  } catch (error) {
    if (!request.signal.aborted) connection.report(false);
    throw error;
  }
}

export const client = createClient<paths>({ fetch: answered });
client.use(carryToken);

/** The data of an answer, or a Refused with the server's own words. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call;
  if (response.ok) return data as T;
  if (typeof error === "object" && error !== null && "title" in error)
    throw new Refused(error as Problem);
  throw new Refused({
    type: "about:blank",
    title: t("the_server_could_not_answer"),
    status: response.status,
    detail: t("try_again_in_a_moment_nothing_on"),
    errors: [],
  });
}

/** Whether trying again may help: the connection was lost, rather than the call refused. */
export function mayRetry(count: number, error: unknown) {
  return !(error instanceof Refused) && count < 100;
}
