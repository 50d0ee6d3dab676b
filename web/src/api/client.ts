import { at, base } from "./base";
import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./generated/schema";
import { noticeBuild } from "./build";
import { noticeDegrees } from "./degrees";
import { unchanged } from "./unchanged";
import { withView } from "./view";

export type Schemas = components["schemas"];
export type JobSheet = Schemas["JobSheet"];
export type JobTag = Schemas["JobTag"];
export type JobFieldValues = Schemas["JobFieldValues"];
export type Run = Schemas["RunAnswer"];
export type ImportAnswer = Schemas["ImportAnswer"];
export type RunConditions = Schemas["RunConditions"];
export type Trace = Schemas["TraceAnswer"];
export type TraceChannel = Schemas["TraceChannel"];
export type Session = Schemas["SessionAnswer"];
export type Me = Schemas["MeAnswer"];

/** A refusal of the server: its sentence, and what else it said. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    sentence: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(sentence);
  }

  /** Whether the same call may work in a moment: the server or its database is away. */
  get mayPass(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504;
  }
}

/** A refusal's sentence, or another one where it was none of the server's. */
export const sentenceOf = (failure: unknown, otherwise: string) =>
  failure instanceof Problem ? failure.message : otherwise;

const away = "The server does not answer. What you typed stays here and is tried again.";
let session: Promise<Session> | undefined;

/** The session, asked for once; a stale one is asked for again. */
export function getSession(anew = false): Promise<Session> {
  if (anew || !session) {
    session = fetch(at("/api/session")).then(
      async (answer) => {
        if (!answer.ok) {
          session = undefined;
          throw await problemOf(answer);
        }
        return (await answer.json()) as Session;
      },
      () => {
        session = undefined;
        throw new Problem(0, away);
      },
    );
  }
  return session;
}

/** Reads a refusal; never shows anything but a sentence. */
export async function problemOf(answer: Response): Promise<Problem> {
  try {
    const body = (await answer.clone().json()) as Record<string, unknown>;
    const detail = typeof body.detail === "string" ? body.detail : undefined;
    return new Problem(answer.status, detail ?? `The server refused this (${answer.status}).`, body);
  } catch {
    return new Problem(answer.status, `The server refused this (${answer.status}).`);
  }
}

const withToken: Middleware = {
  async onRequest({ request }) {
    if (request.method !== "GET") {
      request.headers.set("X-Remedos-Token", (await getSession()).token);
    }
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: base, fetch: (request) => fetch(request) });
client.use(withToken);
client.use(withView);
client.use(noticeBuild);
client.use(noticeDegrees);
client.use(unchanged);

type Answer<T> = { data?: T; response: Response };

/** What the page does when a call is refused for who asks: told once it is there to ask and to show. */
export const door = {
  /** Nobody is signed in any more. */
  shut: (): void => undefined,
  /** Asks whoever is here to prove who it is; whether it was done. */
  prove: (sentence: string): Promise<boolean> => Promise.reject(new Problem(403, sentence)),
};

/**
 * Runs a call: its data, or a thrown Problem. A page that has grown old gets a new token and one more try, and so does whoever has to prove
 * first who it is.
 */
export async function call<T>(make: () => Promise<Answer<T>>): Promise<T> {
  let answer = await attempt(make);
  if (answer.response.ok) {
    return answer.data as T;
  }
  const problem = await problemOf(answer.response);
  if (problem.more.type === "stale-page") {
    await getSession(true);
    answer = await attempt(make);
  } else if (problem.more.type === "prove-again" && (await door.prove(problem.message))) {
    answer = await attempt(make);
  } else if (problem.more.type === "signed-out") {
    door.shut();
  }
  if (!answer.response.ok) {
    throw await problemOf(answer.response);
  }
  return answer.data as T;
}

async function attempt<T>(make: () => Promise<Answer<T>>): Promise<Answer<T>> {
  try {
    const answer = await make();
    // openapi-fetch has read a refusal's body already; put it back for problemOf.
    const refused = (answer as { error?: unknown }).error;
    return answer.response.ok
      ? answer
      : { response: new Response(JSON.stringify(refused ?? {}), { status: answer.response.status }) };
  } catch (failure) {
    if (failure instanceof Problem) {
      throw failure;
    }
    throw new Problem(0, away);
  }
}
